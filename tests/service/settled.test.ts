/** Time exactly as settled, case by case; the slow second engine tries the same by thrown lives. */
import { describe, expect, it } from 'vitest'
import type { DraftHold, DraftStep } from '#core/sequence/draft'
import type { Until } from '#core/sequence/program'
import { daily } from '#core/time/hours'
import type { Timing } from '#core/time/when'
import { instantOf, localOf } from '#core/time/zone'
import { findCourse } from '#data/courses'
import { openEnrolmentsOfPerson } from '#data/enrolments'
import { stopDomain } from '#data/carrier'
import { eventsOfPerson } from '#data/events'
import { emailsOfPerson } from '#data/outbox'
import { leave } from '#usecases/arrive/leave'
import { takeBack } from '#usecases/arrive/takeBack'
import { goOnAgain, standStill } from '#usecases/courses/people'
import { changeOutlook, publishChanges, startCourse } from '#usecases/courses/publish'
import { createCourse, saveCourse } from '#usecases/courses/save'
import { setField } from '#usecases/inner/facts/fieldValue'
import { changeStatus } from '#usecases/inner/facts/marks'
import { beginPause, endPause } from '#usecases/inner/facts/pauses'
import { transact } from '#usecases/inner/reactor/transaction'
import { giveTagByHand } from '#usecases/know/byHand'
import { saveField } from '#usecases/know/fields'
import { recordClick } from '#usecases/reading/click'
import { resumeDomainSending } from '#usecases/sending/waves'
import { saveSendingHours } from '#usecases/settings/hours'
import { saveSendingLimits } from '#usecases/settings/limits'
import { play } from '#usecases/time/play'
import { DAY, email, furnish, HOUR, listeningCarrier, moveTo, openContext, step, thursdayNoon, visit, type Workshop } from './workshop'

const lisbon = (date: string, time: string) => instantOf(date, time, 'Europe/Lisbon')
const said = (at: number | null) => at === null ? null : Object.values(localOf(at, 'Europe/Lisbon')).join(' ')
const sent = (context: Workshop, id: number) =>
  emailsOfPerson(context.db, id).reverse().filter(one => one.handedOverAt !== null).map(one => `${one.itemId} ${said(one.handedOverAt)}`)
const aDayLater: Timing = { kind: 'elapsed', count: 1, unit: 'days', from: 'previous' }
const hoursLater: Timing = { kind: 'elapsed', count: 3, unit: 'hours', from: 'previous' }
const twoDays = (): DraftStep[] => [step('one', { kind: 'at-once' }), step('two', aDayLater), step('three', aDayLater)]
const pauses = (context: Workshop, id: number) =>
  transact(context, () => beginPause(context.db, id, { at: context.clock.now(), untilAt: thursdayNoon + 90 * DAY }))
const goesOn = (context: Workshop, id: number) => transact(context, () => endPause(context.db, id, context.clock.now(), null))
const status = (context: Workshop, id: number, event: 'put-to-rest' | 'woken') =>
  transact(context, () => changeStatus(context.db, id, event, { at: context.clock.now(), causeId: null, ownAct: false }))

const reader = { agent: 'A browser', robot: false, certain: false }
const asking = (interestId: number) => step('one', {
  kind: 'at-once',
}, email('one',
{ body: {
  type: 'doc', content: [{ type: 'button', attrs: { label: 'coptic', url: 'https://saltmarsh.example.com/coptic', tagId: interestId } }],
} }))
const clickedOne: Until = { kind: 'event', when: { kind: 'clicked', thingId: null, stepId: 'one' } }
const holding = (until: Until, most: number): DraftHold => ({
  id: 'h', kind: 'hold', when: { kind: 'at-once' }, ifPast: 'at-once', zone: 'workspace', until, atMost: { count: most, unit: 'hours' },
  did: [step('yes', { kind: 'at-once' })], didNot: [step('no', { kind: 'at-once' })],
})

/** False where it never comes to an end. */
async function played(context: Workshop) {
  let rounds = 0
  return play(context, context.clock.now(), { goOn: () => ++rounds < 300 })
}

/** A course whose second step goes by a date of theirs. */
async function dated(when: Partial<Extract<Timing, { kind: 'date-field' }>>) {
  const setting = await furnish(openContext(), () => [step('one', { kind: 'at-once' })])
  const { context, courseId } = setting
  const fieldId = saveField(context, null, { name: 'bought on', label: '', kind: 'date', choices: [] })
  const { name, draft } = findCourse(context.db, courseId)!
  saveCourse(context, courseId, name, {
    ...draft,
    steps: [step('one', aDayLater), step('two', { kind: 'date-field', fieldId, days: 0, time: '18:00', everyMonths: 0, ...when })],
  })
  await publishChanges(context, courseId)
  return { context, set: (id: number, value: string | null) =>
    transact(context, () => setField(context.db, id, fieldId, value, { at: context.clock.now(), causeId: null, ownAct: false })) }
}

describe('time as settled', () => {
  it('C1: a first email that is merely past is not asked for: it waits for sending hours', async () => {
    const { context } = await furnish(openContext(), () => [step('one', { kind: 'calendar-day', day: 0, time: '08:00', from: 'joining' })])
    saveSendingHours(context, daily([1, 2, 3, 4, 5], '08:00', '18:00'))
    await moveTo(context, lisbon('2026-11-28', '23:00'))
    const id = visit(context, 'saturday@example.com')
    await moveTo(context, lisbon('2026-12-02', '12:00'))
    expect(sent(context, id)).toEqual(['one 2026-11-30 08:00'])
  })

  it('C2: a date that is emptied sends nothing that goes by it', async () => {
    const { context, set } = await dated({})
    const id = visit(context, 'ada@example.com')
    set(id, '2026-12-20')
    await moveTo(context, thursdayNoon + 2 * DAY)
    set(id, null)
    await moveTo(context, thursdayNoon + 60 * DAY)
    expect(sent(context, id)).toEqual(['one 2026-11-27 12:00'])
    expect(eventsOfPerson(context.db, id).find(({ kind }) => kind === 'skipped-step')?.detail).toBe('no-date')
  })

  it('C3: resting stands still: what was planned meanwhile is not lost, and goes later by the rest', async () => {
    const { context } = await furnish(openContext(), twoDays)
    const id = visit(context, 'ada@example.com')
    await moveTo(context, thursdayNoon + 12 * HOUR)
    status(context, id, 'put-to-rest')
    await moveTo(context, thursdayNoon + 60 * HOUR)
    expect(sent(context, id)).toEqual(['one 2026-11-26 12:00'])
    status(context, id, 'woken')
    await moveTo(context, thursdayNoon + 10 * DAY)
    expect(sent(context, id)).toEqual(['one 2026-11-26 12:00', 'two 2026-11-29 12:00', 'three 2026-11-30 12:00'])
  })

  it('C5: time of a pause counts once, also where it overlaps standing still', async () => {
    const { context } = await furnish(openContext(), twoDays)
    const id = visit(context, 'ada@example.com')
    const inside = () => openEnrolmentsOfPerson(context.db, id)[0]!.id
    await moveTo(context, thursdayNoon + 2 * HOUR)
    pauses(context, id)
    await moveTo(context, thursdayNoon + 20 * HOUR)
    standStill(context, inside())
    await moveTo(context, thursdayNoon + 26 * HOUR)
    goesOn(context, id)
    await moveTo(context, thursdayNoon + 50 * HOUR)
    goOnAgain(context, inside())
    await moveTo(context, thursdayNoon + 10 * DAY)
    // Still from +2 to +50: two days, once.
    expect(sent(context, id)).toEqual(['one 2026-11-26 12:00', 'two 2026-11-29 12:00', 'three 2026-11-30 12:00'])
  })

  it('C8: taking back "leave everything" goes on where they stood, and begins no hold anew', async () => {
    const { context } = await furnish(openContext(), ({ interestId }) => [
      step('one', { kind: 'at-once' }, email('one')),
      {
        id: 'hold', kind: 'hold', when: { kind: 'at-once' }, ifPast: 'at-once', zone: 'workspace', atMost: { count: 48, unit: 'hours' },
        until: { kind: 'event', when: { kind: 'got-tag', thingId: interestId } }, did: [], didNot: [step('no', { kind: 'at-once' })],
      },
    ])
    const id = visit(context, 'ada@example.com')
    await moveTo(context, thursdayNoon + 10 * HOUR)
    const one = emailsOfPerson(context.db, id)[0]!.id
    leave(context, one, { what: 'everything' })
    await moveTo(context, thursdayNoon + 15 * HOUR)
    takeBack(context, one)
    await moveTo(context, thursdayNoon + 10 * DAY)
    expect(sent(context, id)).toEqual(['one 2026-11-26 12:00', 'no 2026-11-28 12:00'])
  })

  it('C10: what is past after a pause, or after a date was changed, is skipped where it says so', async () => {
    const { context } = await furnish(openContext(), () => [
      step('one', { kind: 'at-once' }), step('two', { kind: 'date', date: '2026-11-28', time: '10:00' }, email('two'), { ifPast: 'skip' }),
      step('three', aDayLater),
    ])
    const id = visit(context, 'ada@example.com')
    await moveTo(context, thursdayNoon + HOUR)
    pauses(context, id)
    await moveTo(context, lisbon('2026-11-30', '12:00'))
    goesOn(context, id)
    await moveTo(context, thursdayNoon + 20 * DAY)
    expect(sent(context, id).map(one => one.split(' ')[0])).toEqual(['one', 'three'])
  })

  it('C13: six months after a date is half a year later, once; every six months from the first return does not come on the day itself', async () => {
    for (const when of [{ months: 6 }, { everyMonths: 6, fromFirst: true as const }]) {
      const { context, set } = await dated(when)
      const id = visit(context, 'buyer@example.com')
      set(id, '2026-11-27')
      await moveTo(context, lisbon('2027-07-01', '12:00'))
      expect(sent(context, id)).toEqual(['one 2026-11-27 12:00', 'two 2027-05-27 18:00'])
    }
    const { context, set } = await dated({ everyMonths: 6 })
    const id = visit(context, 'buyer@example.com')
    set(id, '2026-11-27')
    await moveTo(context, thursdayNoon + 3 * DAY)
    expect(sent(context, id)).toEqual(['one 2026-11-27 12:00', 'two 2026-11-27 18:00'])
  })

  it('C4: a pause decides no hold and leaves it what was left of its time', async () => {
    const { context } = await furnish(openContext(), ({ interestId }) => [asking(interestId), holding(clickedOne, 48)])
    const [clicks, silent] = ['clicks', 'silent'].map(name => visit(context, `${name}@example.com`)) as [number, number]
    await moveTo(context, thursdayNoon + 10 * HOUR)
    for (const id of [clicks, silent]) pauses(context, id)
    // On day 7 the ready segment of newcomers is left, which is an event of theirs after the old limit.
    await moveTo(context, thursdayNoon + 10 * DAY)
    for (const id of [clicks, silent]) goesOn(context, id)
    await moveTo(context, thursdayNoon + 11 * DAY)
    recordClick(context, emailsOfPerson(context.db, clicks)[0]!.id, 0, reader)
    await moveTo(context, thursdayNoon + 20 * DAY)
    expect(sent(context, clicks)).toEqual(['one 2026-11-26 12:00', 'yes 2026-12-07 12:00'])
    // 38 of its 48 hours were left.
    expect(sent(context, silent)).toEqual(['one 2026-11-26 12:00', 'no 2026-12-08 02:00'])
  })

  it('C6: too many emails a day moves a hold behind them, too: nobody is asked about what has not come', async () => {
    const { context } = await furnish(openContext(), () => [
      step('asked', { kind: 'at-once' }), step('one', { kind: 'elapsed', count: 1, unit: 'hours', from: 'previous' }),
      step('two', { kind: 'elapsed', count: 1, unit: 'hours', from: 'previous' }),
      holding({ kind: 'event', when: { kind: 'opened', thingId: null, which: { kind: 'course', ownerId: 1, itemId: 'two' } } }, 20),
    ])
    saveSendingLimits(context, { gapMinutes: 0, aDay: 1, aWeek: null, tooMany: 'wait' })
    const id = visit(context, 'ada@example.com')
    await moveTo(context, thursdayNoon + 10 * DAY)
    expect(sent(context, id)).toEqual(['asked 2026-11-26 12:00', 'one 2026-11-26 13:00', 'two 2026-11-27 14:00', 'no 2026-11-28 10:00'])
  })

  it('C7: after an outage, what happened in time counts as in time, whoever else is late', async () => {
    const clock = { at: thursdayNoon }
    const { context, interestId } = await furnish(openContext({ mode: 'live', clock, carrier: listeningCarrier() }), ({ interestId }) => [
      asking(interestId), { ...holding(clickedOne, 24), id: 'first' },
      {
        ...holding({ kind: 'condition', who: { kind: 'all', of: [{ kind: 'tag', tagId: interestId, since: null }] } }, 144), id: 'second',
        did: [step('turned', aDayLater), step('later', aDayLater)], didNot: [step('never', { kind: 'at-once' })],
      },
    ])
    const plain = ['clicks', 'other'].map(name => visit(context, `${name}@example.com`)) as [number, number]
    await played(context)
    // The machine sleeps from here. Somebody else's step is overdue before the click.
    clock.at = thursdayNoon + 2 * HOUR
    visit(context, 'newer@example.com')
    clock.at = thursdayNoon + 23 * HOUR
    recordClick(context, emailsOfPerson(context.db, plain[0])[0]!.id, 0, reader)
    clock.at = thursdayNoon + 30 * HOUR
    await played(context)
    expect(sent(context, plain[0]).slice(0, 2)).toEqual(['one 2026-11-26 12:00', 'yes 2026-11-27 18:00'])
    expect(sent(context, plain[1])).toEqual(['one 2026-11-26 12:00', 'no 2026-11-27 18:00'])
    // And a condition that turned true while it slept, on the third day of six, counts from then.
    clock.at = thursdayNoon + 4 * DAY
    giveTagByHand(context, plain[1], interestId)
    clock.at = thursdayNoon + 5 * DAY + 6 * HOUR
    await played(context)
    clock.at = thursdayNoon + 9 * DAY
    await played(context)
    expect(sent(context, plain[1])).toEqual([
      'one 2026-11-26 12:00', 'no 2026-11-27 18:00', 'turned 2026-12-01 18:00', 'later 2026-12-05 12:00',
    ])
  })

  it('C9: what a click causes counts at the click, also for a hold that waits for it and ends before the click is judged', async () => {
    const { context } = await furnish(openContext(), ({ interestId }) =>
      [asking(interestId), holding({ kind: 'event', when: { kind: 'got-tag', thingId: interestId } }, 24)])
    const id = visit(context, 'ada@example.com')
    await moveTo(context, thursdayNoon + 24 * HOUR - 10_000)
    recordClick(context, emailsOfPerson(context.db, id)[0]!.id, 0, reader)
    await moveTo(context, thursdayNoon + 5 * DAY)
    expect(sent(context, id).map(one => one.split(' ')[0])).toEqual(['one', 'yes'])
  })

  it('C11: a course by a date, once, takes in also those whose first step is past; no step of it has a year of its own', async () => {
    const setting = await furnish(openContext())
    const { context, listId } = setting
    const fieldId = saveField(context, null, { name: 'runs out', label: '', kind: 'date', choices: [] })
    // With a year of its own, the early one would wait for the next November.
    const on = (days: number, everyMonths: number): Timing => ({ kind: 'date-field', fieldId, days, time: '08:00', everyMonths })
    const id = createCourse(context, 'Renewal', 'early')
    const { name, draft } = findCourse(context.db, id)!
    saveCourse(context, id, name, {
      ...draft, listId, dates: { fieldId, everyMonths: 0 },
      steps: [step('early', on(-7, 12), undefined, { ifPast: 'skip' }), step('day', on(0, 0))],
    })
    await startCourse(context, id)
    const person = visit(context, 'ada@example.com')
    transact(context, () => setField(context.db, person, fieldId, '2026-11-29', { at: context.clock.now(), causeId: null, ownAct: false }))
    await moveTo(context, thursdayNoon + 9 * DAY)
    expect(sent(context, person).filter(one => one.startsWith('early') || one.startsWith('day'))).toEqual(['day 2026-11-29 08:00'])
  })

  it('C14: what publishing says counts those who wait for sending hours only', async () => {
    const { context, courseId } = await furnish(openContext(), () =>
      [step('one', { kind: 'at-once' }), step('two', { kind: 'at-once' }, email('two', { subject: [] }))])
    saveSendingHours(context, daily([1, 2, 3, 4, 5], '08:00', '18:00'))
    for (let n = 0; n < 3; n++) visit(context, `p${n}@example.com`)
    await moveTo(context, lisbon('2026-11-28', '12:00'))
    const { name, draft } = findCourse(context.db, courseId)!
    saveCourse(context, courseId, name, { ...draft, steps: [draft.steps[0]!, step('two', { kind: 'at-once' })] })
    expect(changeOutlook(context, courseId).effects).toMatchObject([
      { fromStepId: 'two', people: 3, atOnce: 0, whenOpen: 3, opensAt: lisbon('2026-11-30', '08:00') },
    ])
    await publishChanges(context, courseId)
    await moveTo(context, lisbon('2026-12-02', '12:00'))
    expect(sent(context, 1)).toEqual(['one 2026-11-26 12:00', 'two 2026-11-30 08:00'])
  })

  it('what comes back to somebody at rest waits until they are woken, and nobody waits for it', async () => {
    const clock = { at: thursdayNoon }
    const { context } = await furnish(
      openContext({ mode: 'live', clock, carrier: listeningCarrier() }), () => [step('one', hoursLater), step('two', hoursLater)],
    )
    const id = visit(context, 'asleep@example.com')
    const other = visit(context, 'other@example.com')
    // The machine slept: both emails were decided late, and held as the rest began.
    clock.at += 10 * HOUR
    status(context, id, 'put-to-rest')
    const [email] = emailsOfPerson(context.db, id)
    leave(context, email!.id, { what: 'everything' })
    takeBack(context, email!.id)
    expect(await played(context)).toBe(true)
    expect([sent(context, id).length, sent(context, other).length]).toEqual([0, 2])
    clock.at += HOUR
    status(context, id, 'woken')
    expect(await played(context)).toBe(true)
    expect(sent(context, id)).toEqual(['one 2026-11-26 23:00', 'two 2026-11-26 23:00'])
  })

  it('an email that is set aside by itself takes the later ones of its journey along', async () => {
    const clock = { at: thursdayNoon }
    const { context } = await furnish(
      openContext({ mode: 'live', clock, carrier: listeningCarrier() }), () => [step('one', hoursLater), step('two', hoursLater)],
    )
    const id = visit(context, 'somebody@example.com')
    clock.at += 10 * HOUR
    stopDomain(context.db, { domain: 'example.com', reason: 'refused', sinceAt: clock.at })
    expect(await played(context)).toBe(true)
    expect(emailsOfPerson(context.db, id).map(({ status, goAt }) => [status, goAt])).toEqual([['queued', null], ['queued', null]])
    clock.at += HOUR
    resumeDomainSending(context, 'example.com')
    expect(await played(context)).toBe(true)
    expect(sent(context, id)).toEqual(['one 2026-11-26 23:00', 'two 2026-11-26 23:00'])
  })
})
