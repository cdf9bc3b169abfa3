/** The coming days: what is counted there against what then goes, ranges where it is open, and people who would get too much. */
import { describe, expect, it } from 'vitest'
import { diceOf } from '#core/dice'
import type { DraftStep } from '#core/sequence/draft'
import { daily } from '#core/time/hours'
import type { Timing } from '#core/time/when'
import { localOf } from '#core/time/zone'
import { createCourse, saveCourse } from '#usecases/courses/save'
import { startCourse } from '#usecases/courses/publish'
import { letIn } from '#usecases/courses/people'
import { giveTagByHand } from '#usecases/know/byHand'
import { saveSendingLimits } from '#usecases/settings/limits'
import { saveSendingHours } from '#usecases/settings/hours'
import { calendarView, CALENDAR_DAYS } from '#usecases/views/calendar'
import { DAY, furnish, HOUR, moveTo, openContext, step, thursdayNoon, visit } from './workshop'

const hours = (count: number): Timing => ({ kind: 'elapsed', count, unit: 'hours', from: 'previous' })
const LISBON = 'Europe/Lisbon'
const half = (at: number) => {
  const { date, time } = localOf(at, LISBON)
  return `${date} ${time.slice(0, 3)}${time.slice(3) < '30' ? '00' : '30'}`
}

describe('the coming 28 days', () => {
  it('hold just what then goes, by half-hour and email, with zones, sending hours, dates and clocks that are set', async () => {
    const dice = diceOf(7)
    const steps = (): DraftStep[] => [
      step('one', { kind: 'at-once' }), step('two', hours(30)),
      step('three', { kind: 'calendar-day', day: 2, time: '06:30', from: 'joining' }, undefined, { ifPast: 'skip', ignoresHours: true }),
      step('four', { kind: 'elapsed', count: 50, unit: 'minutes', from: 'previous' }), step(
        'five', { kind: 'next-weekday', weekday: 2, time: '09:20' }, undefined, { zone: 'subscriber' },
      ), step('six', { kind: 'date', date: '2027-04-09', time: '18:00' }, undefined, { ifPast: 'skip' }),
      step('seven', { kind: 'months', count: 1, time: '10:00', from: 'joining' }),
    ]
    const { context } = await furnish(openContext(), steps)
    // The clocks of Lisbon are set on 28 March, those of New York on the 14th, those of Auckland on 4 April.
    await moveTo(context, Date.UTC(2027, 2, 9, 12))
    saveSendingHours(context, daily([1, 2, 3, 4, 5, 6], '07:00', '19:30'))
    for (let n = 0; n < 50; n++) {
      visit(context, `p${n}@example.com`, '', ['', 'Asia/Kathmandu', 'Pacific/Auckland', 'America/New_York'][n % 4])
      await moveTo(context, context.clock.now() + Math.floor(dice() * 9 * HOUR))
    }
    const now = context.clock.now()
    const view = calendarView(context)
    expect([view.days.length, view.days[0]!.date]).toEqual([CALENDAR_DAYS, localOf(now, LISBON).date])
    const said = view.days.flatMap(day => day.slots.flatMap(({ time, sends }) =>
      sends.map(({ itemId: stepId, people, low, high }) => `${day.date} ${time} ${stepId} ${people} ${low} ${high}`)))
    for (const day of view.days) expect(day.people).toBe(day.slots.reduce((sum, slot) => sum + slot.people, 0))
    const until = view.days.at(-1)!.at + DAY - 1
    await moveTo(context, until)
    const gone = new Map<string, number>()
    for (const row of context.db.prepare(`SELECT item_id AS stepId, handed_over_at AS at FROM outbox WHERE handed_over_at > ?`)
      .all(now) as { stepId: string, at: number }[]) {
      const key = `${half(row.at)} ${row.stepId}`
      gone.set(key, (gone.get(key) ?? 0) + 1)
    }
    expect(new Set([...gone.keys()].map(key => key.split(' ')[2])).size).toBeGreaterThan(5)
    // Where nothing is open the bounds are the number itself.
    expect(said.sort()).toEqual([...gone].map(([key, people]) => `${key} ${people} ${people} ${people}`).sort())
  })

  it('give a range where it is open which way people take, and none behind it', async () => {
    const { context, interestId } = await furnish(openContext(), ({ interestId }) => [
      step('one', { kind: 'at-once' }),
      {
        id: 'f', kind: 'fork', when: hours(3), ifPast: 'at-once', zone: 'workspace',
        ways: [{ id: 'coptic', who: { kind: 'tag', tagId: interestId, since: null }, steps: [step('in', hours(1))] }],
        otherwise: [step('out', hours(1))],
      },
      step('last', { kind: 'next-time', time: '20:00' }),
    ])
    for (let n = 0; n < 18; n++) giveTagByHand(context, visit(context, `before${n}@example.com`), interestId)
    for (let n = 0; n < 80; n++) visit(context, `without${n}@example.com`)
    await moveTo(context, thursdayNoon + DAY)
    for (let n = 0; n < 100; n++) visit(context, `p${n}@example.com`)
    await moveTo(context, thursdayNoon + DAY + HOUR)
    const sends = calendarView(context).days.flatMap(({ slots }) => slots.flatMap(slot => slot.sends))
    const of = (stepId: string) => sends.filter(send => send.itemId === stepId).map(({ people, low, high }) => [people, low, high])
    // 18 of 98 went in, and one more of each way is counted: 19 of 100. Nineteen of twenty times within 1.96 standard deviations, sqrt(100
    // · 0.19 · 0.81).
    expect(of('in')).toEqual([[19, 11, 27]])
    expect(of('out')).toEqual([[81, 73, 89]])
    expect(of('last')).toEqual([[100, 100, 100]])
  })

  it('leave out what somebody has had already, also where others wait for the same step at the same time', async () => {
    const { context } = await furnish(openContext(), () => [
      step('one', { kind: 'at-once' }), step('two', hours(24)), step('three', hours(24)),
    ])
    const [again] = ['ada', 'bo', 'cy'].map(name => visit(context, `${name}@example.com`))
    await moveTo(context, thursdayNoon + HOUR)
    // As if a jump had led back from behind it.
    context.db.prepare(`UPDATE enrolments SET done_steps = '["one","three"]' WHERE person_id = ?`).run(again)
    const sends = calendarView(context).days.flatMap(({ slots }) => slots.flatMap(slot => slot.sends))
    expect(sends.map(({ itemId, people }) => [itemId, people])).toEqual([['two', 3], ['three', 2]])
  })

  it('count those who are on their way in, and what waits to go', async () => {
    const { context, courseId, listId } = await furnish(openContext())
    expect(calendarView(context).days.every(({ people }) => people === 0)).toBe(true)
    const other = createCourse(context, 'By date', 'd1')
    saveCourse(context, other, 'By date', {
      listId, wayInTagIds: [], again: 'once', steps: [step('d1', { kind: 'at-once' }), step('d2', hours(24))],
    })
    await startCourse(context, other)
    const id = visit(context, 'ada@example.com')
    await moveTo(context, thursdayNoon + HOUR)
    // They come into the other course in two days: by what the engine keeps of it.
    context.db.prepare('INSERT INTO scheduled_entries (course_id, person_id, due_at, cause_id) SELECT ?, ?, ?, max(id) FROM events').run(
      other, id, thursdayNoon + 2 * DAY,
    )
    const by = (course: number) => calendarView(context).days.flatMap(({ date, slots }) => slots.flatMap(({ time, sends }) =>
      sends.filter(send => send.ownerId === course)
        .map(({ itemId: stepId, title, people }) => `${date} ${time} ${stepId} ${title} ${people}`)))
    expect(by(other)).toEqual(['2026-11-28 12:00 d1 d1 1', '2026-11-29 12:00 d2 d2 1'])
    expect(by(courseId)).toEqual(['2026-11-27 12:00 two two 1', '2026-11-29 08:00 three three 1'])
  })
})

describe('who would get too much in a day', () => {
  const quick = (id: string, count: number) => step(id, hours(count))

  it('is found across courses and within one, by the day of their own calendar, fullest first', async () => {
    const { context, listId } = await furnish(openContext(), () => [step('one', { kind: 'at-once' }), quick('two', 20), quick('three', 3)])
    const full = createCourse(context, 'Three in a morning', 'a')
    saveCourse(context, full, 'Three in a morning', {
      listId, wayInTagIds: [], again: 'once', steps: [step('a', hours(20)), quick('b', 1), quick('c', 1)],
    })
    await startCourse(context, full)
    const both = visit(context, 'both@example.com')
    visit(context, 'single@example.com')
    // Where they are, the twenty hours end at nine in the evening, and the three after them at midnight: on another day.
    const away = visit(context, 'away@example.com', '', 'Pacific/Auckland')
    for (const id of [both, away]) letIn(context, full, id)
    const view = calendarView(context)
    expect(view.most).toBe(2)
    // Both: two and three of the one, a, b and c of the other, all on Friday between 08:00 and 11:00 in Lisbon.
    expect(view.crowds.map(({ name, date, emails }) => `${name} ${date} ${emails}`)).toEqual([
      'both@example.com 2026-11-27 5', 'away@example.com 2026-11-27 4',
    ])
    expect(view.crowds.map(({ personId }) => personId)).toEqual([both, away])
    expect(view.days.filter(({ crowded }) => crowded > 0).map(({ date, crowded }) => `${date} ${crowded}`)).toEqual(['2026-11-27 2'])
    // The single one gets two on Friday: enough for a limit of one.
    saveSendingLimits(context, { gapMinutes: 0, aDay: 1, aWeek: null, tooMany: 'wait' })
    expect(calendarView(context).crowds.map(({ name }) => name)).toEqual(['both@example.com', 'away@example.com', 'single@example.com'])
    saveSendingLimits(context, { gapMinutes: 0, aDay: 4, aWeek: null, tooMany: 'wait' })
    expect(calendarView(context).crowds.map(({ name }) => name)).toEqual(['both@example.com'])
    saveSendingLimits(context, { gapMinutes: 0, aDay: 5, aWeek: null, tooMany: 'wait' })
    expect(calendarView(context)).toMatchObject({ most: 5, crowds: [] })
  })
})
