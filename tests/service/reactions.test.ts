/** What follows from an email: its sending, its reading, and what did not happen in time; what is too late or too many. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Reaction } from '#core/sequence/program'
import { missingForStart, type DraftStep } from '#core/sequence/draft'
import { ALWAYS } from '#core/time/hours'
import { localOf } from '#core/time/zone'
import { enrolmentsOfPerson } from '#data/enrolments'
import { eventsOfPerson } from '#data/events'
import { setSendingLimits } from '#data/limits'
import { tagsOfPerson } from '#data/marks'
import { searchMailbox } from '#data/mailbox'
import { emailsOfPerson } from '#data/outbox'
import { publishChanges, startCourse } from '#usecases/courses/publish'
import { sendAgain } from '#usecases/courses/people'
import { createCourse, saveCourse } from '#usecases/courses/save'
import { play } from '#usecases/time/play'
import { newOffer } from '#core/offers/offer'
import { recordClick } from '#usecases/reading/click'
import { recordOpen } from '#usecases/reading/open'
import { findCourse } from '#data/courses'
import { openShop } from './shop'
import { DAY, email, furnish, HOUR, moveTo, openContext, step, thursdayNoon, visit, type Workshop } from './workshop'

const MINUTE = 60_000
const reader = { agent: 'A browser', robot: false, certain: false }
const button = (url: string) => ({ type: 'button' as const, attrs: { label: url, url, tagId: null } })
const two = (title: string) =>
  email(title, { body: { type: 'doc', content: [button('https://a.example.com/'), button('https://b.example.com/')] } })
const subject = [{ type: 'text' as const, text: 'Once more' }]
const hours = (count: number) => ({ kind: 'elapsed' as const, count, unit: 'hours' as const, from: 'previous' as const })
const within = { count: 24, unit: 'hours' as const }

const withReactions = (reactions: (tagId: number) => Reaction[], ...rest: DraftStep[]) =>
  furnish(openContext(), ({ interestId }) => [step('one', { kind: 'at-once' }, two('one'), { reactions: reactions(interestId) }), ...rest])
const mail = (context: Workshop, id: number, stepId = 'one') => emailsOfPerson(context.db, id).filter(one => one.itemId === stepId)
const tags = (context: Workshop, id: number) => tagsOfPerson(context.db, id).map(({ name }) => name)
const got = (context: Workshop, id: number) => eventsOfPerson(context.db, id).filter(({ kind, tagName }) =>
  kind === 'got-tag' && tagName === 'interest: coptic').map(({ at }) => at - thursdayNoon)
const gives = (tagId: number) => [{ kind: 'give-tag' as const, tagId }]
const said = (at: number | null) => at === null ? 'not' : Object.values(localOf(at, 'Europe/Lisbon')).join(' ')
const sent = (context: Workshop, id: number) => emailsOfPerson(context.db, id).reverse().map(one =>
  `${one.itemId}${one.isAgain ? ` ${one.occasion.replace(/^\d+-|-\d+$/g, '')}` : ''} ${one.status === 'handed over' ? said(one.handedOverAt) : `${one.status}: ${one.reason}`}`)

describe('what follows from an email', () => {
  it('with its sending, with the first opening, with the first click on the link it names, and once', async () => {
    const { context } = await withReactions(tagId => [{ id: 'r', on: 'sent', then: gives(tagId) }])
    expect(got(context, visit(context, 's@example.com'))).toEqual([])
    await moveTo(context, thursdayNoon)
    expect(got(context, 1)).toEqual([0])

    const opening = await withReactions(tagId => [{ id: 'r', on: 'opened', then: gives(tagId) }])
    const id = visit(opening.context, 'o@example.com')
    await moveTo(opening.context, thursdayNoon + HOUR)
    recordOpen(opening.context, mail(opening.context, id)[0]!.id, { ...reader, agent: 'A proxy that fetches ahead', robot: true })
    expect(got(opening.context, id)).toEqual([])
    await moveTo(opening.context, thursdayNoon + 2 * HOUR)
    for (let n = 0; n < 2; n++) recordOpen(opening.context, mail(opening.context, id)[0]!.id, reader)
    expect(got(opening.context, id)).toEqual([2 * HOUR])

    const {
      context: clicking,
    } = await withReactions(tagId => [{ id: 'r', on: 'clicked', url: 'https://b.example.com/', then: gives(tagId) }])
    const [first, second] = [visit(clicking, 'a@example.com'), visit(clicking, 'b@example.com')]
    await moveTo(clicking, thursdayNoon + HOUR)
    recordClick(clicking, mail(clicking, first)[0]!.id, 0, reader)
    recordClick(clicking, mail(clicking, second)[0]!.id, 1, reader)
    await moveTo(clicking, thursdayNoon + 2 * HOUR)
    expect([got(clicking, first), got(clicking, second)]).toEqual([[], [HOUR]])
  })

  it('not opened in time: dated at the limit; an open or a click exactly at the limit is in time', async () => {
    const { context } = await withReactions(tagId => [{ id: 'r', on: 'not-opened', within, then: gives(tagId) }])
    const [silent, opener, clicker, late] = ['s', 'o', 'c', 'l'].map(name => visit(context, `${name}@example.com`))
    await moveTo(context, thursdayNoon + 24 * HOUR)
    recordOpen(context, mail(context, opener!)[0]!.id, reader)
    recordClick(context, mail(context, clicker!)[0]!.id, 0, reader)
    await moveTo(context, thursdayNoon + 24 * HOUR + 10_000)
    recordOpen(context, mail(context, late!)[0]!.id, reader)
    await moveTo(context, thursdayNoon + 3 * DAY)
    expect([silent, opener, clicker, late].map(id => got(context, id!))).toEqual([[24 * HOUR], [], [], [24 * HOUR]])
  })

  it('goes a second time under another subject to who has neither opened nor clicked, at most once, never to who did', async () => {
    const { context } = await withReactions(
      () => [{ id: 'r', on: 'not-opened', within, then: [], again: { subject, messageId: null } }], step('two', hours(48)),
    )
    const [silent, opener, clicker, left] = ['s', 'o', 'c', 'l'].map(name => visit(context, `${name}@example.com`))
    await moveTo(context, thursdayNoon + HOUR)
    recordOpen(context, mail(context, opener!)[0]!.id, reader)
    recordClick(context, mail(context, clicker!)[0]!.id, 0, reader)
    context.db.prepare(`UPDATE people SET status = 'unsubscribed' WHERE id = ?`).run(left)
    await moveTo(context, thursdayNoon + 10 * DAY)
    expect(sent(context, silent!)).toEqual(['one 2026-11-26 12:00', 'one again 2026-11-27 12:00', 'two 2026-11-28 12:00'])
    for (const id of [opener, clicker]) expect(sent(context, id!)).toEqual(['one 2026-11-26 12:00', 'two 2026-11-28 12:00'])
    expect(sent(context, left!).slice(0, 2)).toEqual(['one 2026-11-26 12:00', 'one again held back: unsubscribed'])
    expect(searchMailbox(context.db, 'Once more', 10, 0).rows.map(({ subject: said }) => said)).toEqual(['Once more'])
  })

  it('the second sending is held back from who read the first while it waited', async () => {
    const { context } = await withReactions(() => [{ id: 'r', on: 'not-opened', within, then: [], again: { subject, messageId: null } }])
    const id = visit(context, 's@example.com')
    await moveTo(context, thursdayNoon)
    context.db.prepare(`UPDATE workspace SET sending_hours = ?`).run('1'.repeat(4 * 48) + '0'.repeat(48) + '1'.repeat(48) + '0'.repeat(48))
    await moveTo(context, thursdayNoon + 30 * HOUR)
    expect(sent(context, id)[1]).toMatch(/^one again queued/)
    recordOpen(context, mail(context, id).find(({ isAgain }) => !isAgain)!.id, reader)
    await moveTo(context, thursdayNoon + 5 * DAY)
    expect(sent(context, id)[1]).toBe('one again held back: got-it-already')
  })

  it('an email can leave out those who read an earlier one; they go on, and a program’s open is no reading', async () => {
    const { context } = await withReactions(
      () => [], step('two', hours(24), email('two'), { notIfReadId: 'one' }), step('three', hours(24)),
    )
    const [silent, opener, clicker, program] = ['s', 'o', 'c', 'p'].map(name => visit(context, `${name}@example.com`)) as number[]
    await moveTo(context, thursdayNoon + HOUR)
    recordOpen(context, mail(context, opener!)[0]!.id, reader)
    recordClick(context, mail(context, clicker!)[0]!.id, 0, reader)
    recordOpen(context, mail(context, program!)[0]!.id, { ...reader, agent: 'A proxy that fetches ahead', robot: true })
    await moveTo(context, thursdayNoon + 5 * DAY)
    for (const id of [silent!, program!]) {
      expect(sent(context, id)).toEqual(['one 2026-11-26 12:00', 'two 2026-11-27 12:00', 'three 2026-11-28 12:00'])
    }
    for (const id of [opener!, clicker!]) {
      expect(sent(context, id)).toEqual(['one 2026-11-26 12:00', 'two held back: got-it-already', 'three 2026-11-28 12:00'])
    }
    const lost = missingForStart(
      { ...findCourse(context.db, 1)!.draft, steps: [step('two', hours(24), email('two'), { notIfReadId: 'one' })] }, ALWAYS
    )
    expect(lost).toContainEqual({ stepId: 'two', problem: 'It leaves out readers of an email that is no longer in this course.' })
  })

  it('skips ahead, and never back', async () => {
    const { context } = await withReactions(
      () => [{ id: 'r', on: 'clicked', then: [], skipToId: 'three' }], step('two', hours(24)), step('three', hours(24)),
      step('four', hours(24)),
    )
    const [keen, silent, late] = ['k', 's', 'l'].map(name => visit(context, `${name}@example.com`))
    await moveTo(context, thursdayNoon + 6 * HOUR)
    recordClick(context, mail(context, keen!)[0]!.id, 1, reader)
    await moveTo(context, thursdayNoon + 60 * HOUR)
    recordClick(context, mail(context, late!)[0]!.id, 1, reader)
    await moveTo(context, thursdayNoon + 10 * DAY)
    // The wait of the step counts from the click.
    expect(sent(context, keen!)).toEqual(['one 2026-11-26 12:00', 'three 2026-11-27 18:00', 'four 2026-11-28 18:00'])
    expect(sent(context, silent!)).toEqual(sent(context, late!))
    expect(eventsOfPerson(context.db, late!).some(({ kind }) => kind === 'moved-in-course')).toBe(false)
  })

  it('what was published meanwhile counts, and what was taken out does nothing any more', async () => {
    const { context, courseId } = await withReactions(tagId =>
      [{ id: 'r', on: 'not-opened', within, then: gives(tagId) }, { id: 'q', on: 'not-clicked', within, then: gives(tagId) }])
    const id = visit(context, 's@example.com')
    await moveTo(context, thursdayNoon + HOUR)
    const { draft } = findCourse(context.db, courseId)!
    saveCourse(context, courseId, 'Fold', { ...draft, steps: draft.steps.map(one => one.kind === 'email'
      ? { ...one, reactions: [{ id: 'q', on: 'not-clicked' as const, within, then: [{ kind: 'score' as const, points: 3 }] }] }
      : one) })
    await publishChanges(context, courseId)
    await moveTo(context, thursdayNoon + 2 * DAY)
    expect(tags(context, id)).not.toContain('interest: coptic')
    expect(eventsOfPerson(context.db, id).map(({ kind }) => kind)).toEqual(expect.arrayContaining(['not-clicked']))
  })

  it('one email can be sent again by hand, and again, each by a sending of its own', async () => {
    const { context } = await withReactions(() => [])
    const id = visit(context, 's@example.com')
    await moveTo(context, thursdayNoon + HOUR)
    for (let n = 0; n < 2; n++) {
      sendAgain(context, mail(context, id).at(-1)!.id)
      await moveTo(context, thursdayNoon + (2 + n) * HOUR)
    }
    expect(sent(context, id)).toEqual(['one 2026-11-26 12:00', 'one by-hand 2026-11-26 13:00', 'one by-hand 2026-11-26 14:00'])
  })
})

describe('too late, too close, too many', () => {
  it('an email that says nothing any more after an outage is held back as too late, and the course goes on as planned', async () => {
    const clock = { at: thursdayNoon }
    const live = openContext({
      mode: 'live', clock, carrier: { width: 1, knowsRepeats: false, handOver: async () => ({ kind: 'accepted' }), close: async () => {} },
    })
    const { context } = await furnish(live, () => [
      step('one', { kind: 'at-once' }), step('two', hours(2), email('two'), { uselessAfter: { count: 1, unit: 'hours' } }),
      step('three', hours(24)),
    ])
    const id = visit(context, 'p@example.com')
    await play(context, clock.at)
    clock.at = thursdayNoon + 3 * HOUR + 1
    await play(context, clock.at)
    clock.at = thursdayNoon + 26 * HOUR
    await play(context, clock.at)
    expect(sent(context, id)).toEqual(['one 2026-11-26 12:00', 'two held back: too-late', 'three 2026-11-27 14:00'])
  })

  it('a gap moves the sending and not the plan; a full day moves the plan with it', async () => {
    const { context } = await furnish(openContext(), () =>
      [step('one', { kind: 'at-once' }), step('two', hours(1)), step('three', hours(1)), step('four', hours(24))])
    setSendingLimits(context.db, { gapMinutes: 90, aDay: null, aWeek: null, tooMany: 'wait' })
    const id = visit(context, 'p@example.com')
    await moveTo(context, thursdayNoon + 3 * DAY)
    // The first was asked for: it counts for nothing.
    expect(sent(context, id)).toEqual(['one 2026-11-26 12:00', 'two 2026-11-26 13:00', 'three 2026-11-26 14:30', 'four 2026-11-27 14:00'])
    setSendingLimits(context.db, { gapMinutes: 0, aDay: 1, aWeek: null, tooMany: 'wait' })
    const other = visit(context, 'q@example.com')
    await moveTo(context, thursdayNoon + 10 * DAY)
    expect(sent(context, other)).toEqual([
      'one 2026-11-29 12:00', 'two 2026-11-29 13:00', 'three 2026-11-30 14:00', 'four 2026-12-01 14:00',
    ])
    expect(eventsOfPerson(context.db, other).filter(({ kind }) => kind === 'put-off')).toHaveLength(1)
  })

  it('or is dropped, as set, and shown as held back', async () => {
    const { context } = await furnish(openContext(), () =>
      [step('one', { kind: 'at-once' }), step('two', hours(1)), step('three', hours(1)), step('four', hours(24))])
    setSendingLimits(context.db, { gapMinutes: 0, aDay: 1, aWeek: null, tooMany: 'drop' })
    const id = visit(context, 'p@example.com')
    await moveTo(context, thursdayNoon + 3 * DAY)
    expect(sent(context, id)).toEqual([
      'one 2026-11-26 12:00', 'two 2026-11-26 13:00', 'three held back: too-many-emails', 'four 2026-11-27 14:00',
    ])
  })

  it('what was bought goes before a course that was not, on a day with room for one', async () => {
    const setting = await furnish(openContext(), () => [step('one', hours(2))])
    const { context, tagId, listId } = setting
    const lessons = createCourse(context, 'Lessons', 'lesson')
    saveCourse(context, lessons, 'Lessons', { listId, wayInTagIds: [tagId], again: 'once', steps: [step('lesson', hours(4))] })
    await startCourse(context, lessons)
    await openShop(setting, { gives: { ...newOffer().gives, listIds: [listId], courseId: lessons } })
    setSendingLimits(context.db, { gapMinutes: 0, aDay: 1, aWeek: null, tooMany: 'wait' })
    const id = visit(context, 'p@example.com')
    await moveTo(context, thursdayNoon + 3 * DAY)
    expect(sent(context, id)).toEqual(expect.arrayContaining(['lesson 2026-11-26 16:00', 'one 2026-11-27 14:00']))
  })

  it('nobody is sent more than is allowed, whatever courses they are in; and nothing is lost', async () => {
    await fc.assert(fc.asyncProperty(fc.array(
      fc.array(fc.integer({ min: 0, max: 40 }), { minLength: 1, maxLength: 5 }), { minLength: 1, maxLength: 3 },
    ), fc.constantFrom(0, 50, 200), fc.option(fc.constantFrom(1, 2)), async (courses, gapMinutes, aDay) => {
      const { context, tagId, courseId } = await furnish(openContext(), () =>
        courses[0]!.map((count, n) => step(`s${n}`, n === 0 && count === 0 ? { kind: 'at-once' } : hours(Math.max(1, count)))))
      const { listId } = findCourse(context.db, courseId)!
      for (const [n, steps] of courses.slice(1).entries()) {
        const id = createCourse(context, `Course ${n}`, 'x')
        saveCourse(context, id, `Course ${n}`, {
          listId, wayInTagIds: [tagId], again: 'once', steps: steps.map((count, at) => step(`c${n}s${at}`, hours(Math.max(1, count)))),
        })
        await startCourse(context, id)
      }
      setSendingLimits(context.db, { gapMinutes, aDay, aWeek: null, tooMany: 'wait' })
      const id = visit(context, 'p@example.com')
      await moveTo(context, thursdayNoon + 60 * DAY)
      const mails = emailsOfPerson(context.db, id)
      expect(mails.map(({ status }) => status)).toEqual(mails.map(() => 'handed over'))
      expect(mails).toHaveLength(courses.flat().length)
      const counted = mails.filter(({ askedFor }) => askedFor === 0).map(({ handedOverAt }) => handedOverAt!).sort((a, b) => a - b)
      for (const [n, at] of counted.entries()) if (n > 0) expect(at - counted[n - 1]!).toBeGreaterThanOrEqual(gapMinutes * MINUTE)
      const days = counted.map(at => localOf(at, 'Europe/Lisbon').date)
      for (const day of days) if (aDay !== null) expect(days.filter(one => one === day).length).toBeLessThanOrEqual(aDay)
      expect(enrolmentsOfPerson(context.db, id).map(({ status }) => status)).toEqual(courses.map(() => 'finished'))
    }), { numRuns: 12 })
  })
})
