/** Courses with forks, holds and actions, as the engine runs them on a real file. */
import { describe, expect, it } from 'vitest'
import type { Condition } from '#core/audience/condition'
import { sayEvent } from '#core/events'
import type { DraftStep } from '#core/sequence/draft'
import type { Until } from '#core/sequence/program'
import { localOf } from '#core/time/zone'
import { findCourse } from '#data/courses'
import { enrolmentsOfPerson } from '#data/enrolments'
import { eventsOfPerson } from '#data/events'
import { hasTag, tagsOfPerson } from '#data/marks'
import { emailsOfPerson } from '#data/outbox'
import { openTodos } from '#data/todos'
import { createCourse, saveCourse } from '#usecases/courses/save'
import { publishChanges, startCourse } from '#usecases/courses/publish'
import { giveTagByHand } from '#usecases/know/byHand'
import { saveTag } from '#usecases/know/listsAndTags'
import { inventReader } from '#usecases/practice/inventReader'
import { recordClick } from '#usecases/reading/click'
import { InputProblem } from '#usecases/problem'
import { courseView } from '#usecases/views/course'
import { forecast } from '#usecases/views/forecast'
import { beginPause, endPause } from '#usecases/inner/facts/pauses'
import { transact } from '#usecases/inner/reactor/transaction'
import { rowsOf } from './dump'
import { DAY, email, furnish, HOUR, moveTo, openContext, step, tag, thursdayNoon, visit, type Setting, type Workshop } from './workshop'

const MINUTE = 60_000
const base = (id: string) => ({ id, when: { kind: 'at-once' as const }, ifPast: 'at-once' as const, zone: 'workspace' as const })
const hours = (count: number) => ({ kind: 'elapsed' as const, count, unit: 'hours' as const, from: 'previous' as const })
const clicked: Until = { kind: 'event', when: { kind: 'clicked', thingId: null, stepId: 'one' } }
const hold = (until: Until, most: number, did: DraftStep[], didNot: DraftStep[]): DraftStep => ({
  ...base('h'), kind: 'hold', until, atMost: { count: most, unit: 'hours' }, did, didNot,
})
const has = (tagId: number): Condition => ({ kind: 'all', of: [{ kind: 'tag', tagId, since: null }] })
const reader = { agent: 'A browser', robot: false, certain: false }
const asking = (interestId: number) => step('one', {
  kind: 'at-once',
}, email('one',
{ body: {
  type: 'doc', content: [{ type: 'button', attrs: { label: 'coptic', url: 'https://saltmarsh.example.com/coptic', tagId: interestId } }],
} }))

const said = (at: number | null) => at === null ? 'not' : Object.values(localOf(at, 'Europe/Lisbon')).join(' ')
const sent = (context: Workshop, id: number) =>
  emailsOfPerson(context.db, id).reverse().map(one => `${one.itemId} ${said(one.handedOverAt)}`)
const mailOf = (context: Workshop, id: number) => emailsOfPerson(context.db, id).at(-1)!.id
const story = (context: Workshop, id: number) => eventsOfPerson(context.db, id).reverse().map(sayEvent)

const asked = (most = 24): Promise<Setting> => furnish(openContext(), ({ interestId }) => [
  asking(interestId), hold(clicked, most, [step('yes', hours(1))], [step('again', hours(2))]), step('last', hours(24)),
])

describe('a hold', () => {
  it('ends by a click in the email it names, at the time of the click and once the click is judged; else at its limit', async () => {
    const { context, courseId } = await asked()
    const [keen, silent, late] = ['keen', 'silent', 'late'].map(name => visit(context, `${name}@example.com`))
    await moveTo(context, thursdayNoon + 5 * HOUR)
    recordClick(context, mailOf(context, keen!), 0, reader)
    await moveTo(context, thursdayNoon + 24 * HOUR + MINUTE)
    recordClick(context, mailOf(context, late!), 0, reader)
    await moveTo(context, thursdayNoon + 10 * DAY)
    expect(sent(context, keen!)).toEqual(['one 2026-11-26 12:00', 'yes 2026-11-26 18:00', 'last 2026-11-27 18:00'])
    for (const id of [silent!, late!]) {
      expect(sent(context, id)).toEqual(['one 2026-11-26 12:00', 'again 2026-11-27 14:00', 'last 2026-11-28 14:00'])
    }
    expect(story(context, keen!)).toEqual(expect.arrayContaining([
      'is waiting in “Fold, Sew, Cover” for something to happen', 'continued in “Fold, Sew, Cover” because what they waited for happened',
    ]))
    expect(courseView(context, courseId).ways).toEqual(
      expect.arrayContaining([{ stepId: 'h', wayId: 'did', people: 1 }, { stepId: 'h', wayId: 'did-not', people: 2 }]),
    )
  })

  it('a click in the last second counts, though it is judged after the limit', async () => {
    const { context } = await asked()
    const id = visit(context, 'p@example.com')
    await moveTo(context, thursdayNoon + 24 * HOUR - 1000)
    recordClick(context, mailOf(context, id), 0, reader)
    await moveTo(context, thursdayNoon + 3 * DAY)
    expect(sent(context, id)[1]).toBe('yes 2026-11-27 12:59')
  })

  it('on an email that was held back goes the other way at once: nobody waits for what cannot come', async () => {
    const { context, tagId, listId } = await asked()
    // The course brings them in, but the list that it mails by has been left.
    const id = visit(context, 'p@example.com')
    context.db.prepare(`UPDATE list_members SET left_at = ? WHERE person_id = ? AND list_id = ?`).run(thursdayNoon, id, listId)
    await moveTo(context, thursdayNoon + HOUR)
    expect(hasTag(context.db, tagId, id)).toBe(true)
    expect(emailsOfPerson(context.db, id).at(-1)).toMatchObject({ itemId: 'one', status: 'held back' })
    const way = eventsOfPerson(context.db, id).find(({ kind }) => kind === 'took-way')
    expect([way?.detail, said(way!.at)]).toEqual(['did-not', '2026-11-26 12:00'])
  })

  it('stands still while they pause, and what is left of it begins to run again', async () => {
    const { context } = await asked()
    const id = visit(context, 'p@example.com')
    await moveTo(context, thursdayNoon + 4 * HOUR)
    transact(context, () => beginPause(context.db, id, { at: context.clock.now(), untilAt: thursdayNoon + 30 * DAY }))
    await moveTo(context, thursdayNoon + 50 * HOUR)
    expect(enrolmentsOfPerson(context.db, id)).toMatchObject([{ stepId: 'h', dueAt: null }])
    transact(context, () => endPause(context.db, id, context.clock.now(), null))
    await moveTo(context, thursdayNoon + 5 * DAY)
    // 24 hours and the 46 of the pause, and two more.
    expect(sent(context, id)[1]).toBe(`again ${said(thursdayNoon + 72 * HOUR)}`)
  })
})

describe('forks and actions', () => {
  async function forked() {
    const setting = await furnish(openContext())
    const { context, interestId, listId } = setting
    const done = saveTag(context, null, tag('asked'))
    const other = createCourse(context, 'Buyers', 'b1')
    saveCourse(context, other, 'Buyers', { listId, wayInTagIds: [], again: 'once', steps: [step('b1', { kind: 'at-once' })] })
    await startCourse(context, other)
    const { name, draft } = findCourse(context.db, setting.courseId)!
    const steps: DraftStep[] = [
      step('one', { kind: 'at-once' }),
      { ...base('f'), when: hours(3), kind: 'fork', ways: [
        { id: 'coptic', who: has(interestId), steps: [step('in', hours(1)), { ...base('e'), kind: 'end' }] },
      ], otherwise: [
        { ...base('d'), kind: 'do', then: [
          { kind: 'give-tag', tagId: done }, { kind: 'todo', text: 'ask them', days: 1, helper: '' },
          { kind: 'notice', text: 'someone is undecided', email: 'no' }, { kind: 'enrol', courseId: other },
        ] },
      ] },
      step('last', hours(24)),
    ]
    saveCourse(context, setting.courseId, name, { ...draft, steps })
    await publishChanges(context, setting.courseId)
    return { ...setting, done, other, steps, draft, name }
  }

  it('read what is known as they are reached; actions have their cause, and begin another course', async () => {
    const { context, interestId, done } = await forked()
    const [likes, not] = ['likes', 'not'].map(name => visit(context, `${name}@example.com`))
    await moveTo(context, thursdayNoon + 2 * HOUR)
    giveTagByHand(context, likes!, interestId)
    await moveTo(context, thursdayNoon + 5 * DAY)
    expect(sent(context, likes!)).toEqual(['one 2026-11-26 12:00', 'in 2026-11-26 16:00'])
    expect(sent(context, not!)).toEqual(['one 2026-11-26 12:00', 'b1 2026-11-26 15:00', 'last 2026-11-27 15:00'])
    expect([hasTag(context.db, done, likes!), hasTag(context.db, done, not!)]).toEqual([false, true])
    expect(openTodos(context.db)).toMatchObject([{ personId: not, text: 'ask them', ruleId: null }])
    expect(story(context, not!)).toEqual(expect.arrayContaining([
      'continued in “Fold, Sew, Cover” on the path for everyone else', 'reached an action in “Fold, Sew, Cover”',
      'got the tag “asked”, by a course',
    ]))
    const events = eventsOfPerson(context.db, not!)
    const got = events.find(event => event.kind === 'got-tag' && event.tagName === 'asked')!
    expect(events.find(({ id }) => id === got.causeId)?.kind).toBe('did-step')
    expect(tagsOfPerson(context.db, not!).map(({ name }) => name)).toContain('asked')
  })

  it('the rail reckons with the ways that people took before', async () => {
    const { context, interestId } = await forked()
    for (let n = 0; n < 8; n++) {
      const id = visit(context, `before${n}@example.com`)
      if (n < 6) giveTagByHand(context, id, interestId)
    }
    await moveTo(context, thursdayNoon + 10 * HOUR)
    for (let n = 0; n < 40; n++) visit(context, `p${n}@example.com`)
    const coming = new Map<string, number>()
    for (const { itemId: stepId, people } of forecast(context, 7 * DAY)) coming.set(stepId, (coming.get(stepId) ?? 0) + people)
    // Of eight six went in; a way nobody took is not impossible, so each counts one more: 7 of 10 go in.
    expect(coming.get('in')).toBe(28)
    expect(coming.get('last')).toBe(12 + 2)
  })

  it('changed while people stand inside: nobody gets anything twice, and who stood in a lost way goes on behind it', async () => {
    const { context, courseId, interestId, draft, name } = await forked()
    const id = visit(context, 'p@example.com')
    giveTagByHand(context, id, interestId)
    await moveTo(context, thursdayNoon + 3 * HOUR + MINUTE)
    expect(enrolmentsOfPerson(context.db, id).map(({ stepId }) => stepId)).toContain('in')
    saveCourse(context, courseId, name, { ...draft, steps: [step('one', { kind: 'at-once' }), step('last', hours(24))] })
    await publishChanges(context, courseId)
    await moveTo(context, thursdayNoon + 5 * DAY)
    expect(sent(context, id)).toEqual(['one 2026-11-26 12:00', 'last 2026-11-27 15:00'])
  })

  it('what is unfinished keeps the course from starting, at its step; what names something gone is refused', async () => {
    const { context, courseId, name, draft, interestId } = await forked()
    const save = (steps: DraftStep[]) => saveCourse(context, courseId, name, { ...draft, steps })
    save([
      step('one', { kind: 'at-once' }), { ...base('f'), kind: 'fork', ways: [], otherwise: [] }, { ...base('d'), kind: 'do', then: [] },
      hold({ kind: 'event', when: { kind: 'clicked', thingId: null, stepId: 'gone' } }, 1, [], []),
      { ...base('j'), kind: 'jump', toId: 'd' }, { ...base('k'), kind: 'jump', toId: '' },
    ])
    const missing = courseView(context, courseId).outlook.missing.map(({ stepId, problem }) => `${stepId}: ${problem}`)
    expect(missing).toEqual([
      'f: A fork needs one path with a condition, besides the one for everyone else.', 'd: Choose what is done.',
      'h: It waits for an email that is no longer in this course.', 'k: Choose the step to continue at.',
    ])
    // The hold on its way lets time pass; without it the jump would go round at once.
    save([
      step('one', { kind: 'at-once' }), { ...base('d'), kind: 'do', then: [{ kind: 'give-tag', tagId: interestId }] },
      { ...base('j'), kind: 'jump', toId: 'd' },
    ])
    expect(courseView(context, courseId).outlook.missing).toMatchObject([
      { stepId: 'j', problem: expect.stringContaining('without any time passing') },
    ])
    await expect(publishChanges(context, courseId)).rejects.toThrow(InputProblem)
    expect(() => save([{ ...base('d'), kind: 'do', then: [{ kind: 'give-tag', tagId: 999 }] }])).toThrow(InputProblem)
    expect(() => save([step('one', { kind: 'at-once' }), step('one', hours(1))])).toThrow(InputProblem)
  })
})

describe('a course with everything in it', () => {
  it('played in one move of 40 days leaves every row as in moves of a day', async () => {
    const live = async (days: number) => {
      const { context, interestId, courseId } = await furnish(openContext())
      const { name, draft } = findCourse(context.db, courseId)!
      const done = saveTag(context, null, tag('done'))
      saveCourse(context, courseId, name, { ...draft, again: 'after-ending', steps: [
        asking(interestId), hold(
          clicked, 30, [step('yes', { kind: 'next-weekday', weekday: 1, time: '08:00' })],
          [{ ...base('d'), kind: 'do', then: [{ kind: 'give-tag', tagId: done }, { kind: 'score', points: 2 }] }],
        ),
        {
          ...base('f'), kind: 'fork', when: { kind: 'next-time', time: '09:00' },
          ways: [{ id: 'w', who: has(done), steps: [step('third', hours(5))] }],
          otherwise: [step('fourth', { kind: 'months', count: 1, time: '07:00', from: 'joining' })],
        },
        step('last', hours(24)),
      ] })
      await publishChanges(context, courseId)
      for (let n = 0; n < 12; n++) inventReader(context, visit(context, `p${n}@example.com`), n * 9)
      for (let at = 1; at <= 40; at += days) await moveTo(context, thursdayNoon + Math.min(40, at + days - 1) * DAY)
      const rows: Record<string, string[]> = { ...rowsOf(context.db), practice_clock: [] }
      return rows
    }
    const [many, one] = [await live(1), await live(40)]
    expect(one).toEqual(many)
    expect(many.outbox!.length).toBeGreaterThan(30)
  })
})
