/** Coming in by a date of one's own, or by the date one would have joined on. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Facts } from '#core/sequence/journey'
import { changesBetween, newEnd } from '#core/sequence/changes'
import { nearestReturn, nextOccurrence, standingSince } from '#core/sequence/returns'
import { newEmail, type CourseDraft, type DraftStep } from '#core/sequence/draft'
import { hasComeTo, type EmailStep, type Program, type Step } from '#core/sequence/program'
import { ALWAYS } from '#core/time/hours'
import type { Timing } from '#core/time/when'
import { localOf } from '#core/time/zone'

const HOUR = 3_600_000
const DAY = 24 * HOUR
const noon = Date.UTC(2026, 10, 26, 12)
const zone = 'Europe/Lisbon'
const facts: Facts = {
  workspaceZone: zone, personZone: null, hours: ALWAYS, dateOf: () => null, holds: () => false, reevaluateAt: () => null,
  awaited: () => ({ kind: 'open' }),
}
const mail = (id: string, when: Timing, more: Partial<EmailStep> = {}): EmailStep => ({
  id, kind: 'email', when, ifPast: 'at-once', zone: 'workspace', messageId: 1, ...more,
})
const after = (count: number): Timing => ({ kind: 'elapsed', count, unit: 'days', from: 'previous' })
const around = (days: number): Timing => ({ kind: 'date-field', fieldId: 7, days, time: '09:00', everyMonths: 0 })
const said = (at: number) => Object.values(localOf(at, zone)).join(' ')

describe('who comes in with a date', () => {
  const yearly = (days: number, everyMonths = 12): Program => ({
    dates: { fieldId: 7, everyMonths }, steps: [mail('a', around(days)), mail('b', around(0))],
  })

  it.each([
    ['a birthday still ahead this year', yearly(-7), '1990-12-10', '2026-12-10', '2026-12-03 09:00'],
    ['one whose first step is past this year comes with the next', yearly(-7), '1990-12-01', '2027-12-01', '2027-11-24 09:00'],
    ['29 February is kept on the 28th', yearly(0), '2000-02-29', '2027-02-28', '2027-02-28 09:00'],
    ['a date still ahead begins with itself', yearly(-7), '2028-05-05', '2028-05-05', '2028-04-28 09:00'],
    [
      'every three months after buying, from the date itself and never chained', yearly(0, 3), '2026-08-31', '2026-11-30',
      '2026-11-30 09:00',
    ],
    ['on the very day, after the hour', yearly(0), '1980-11-26', '2027-11-26', '2027-11-26 09:00'],
    ['ten years before its date', yearly(-3650), '2040-01-10', '2040-01-10', '2030-01-12 09:00'],
  ])('%s', (_, program, date, occursOn, at) => {
    const next = nextOccurrence(program, date, noon, facts)!
    expect([next.occursOn, said(next.at)]).toEqual([occursOn, at])
  })

  it('comes once where it is once, right away while any of its moments is ahead, and not at all when none is', () => {
    const once = yearly(-7, 0)
    expect(nextOccurrence(once, '2026-12-20', noon, facts)).toEqual({ occursOn: '2026-12-20', at: Date.UTC(2026, 11, 13, 9) })
    expect(nextOccurrence(once, '2026-11-28', noon, facts)).toEqual({ occursOn: '2026-11-28', at: noon + 1 })
    // Also where every step is past: each of them does what it says of that.
    expect(nextOccurrence(once, '2026-11-20', noon, facts)).toEqual({ occursOn: '2026-11-20', at: noon + 1 })
  })

  it('is always strictly ahead, and none lies between', () => {
    fc.assert(fc.property(fc.integer({ min: 0, max: 20_000 }), fc.constantFrom(
      1, 3, 12,
    ), fc.integer({ min: -30, max: 30 }), (day, everyMonths, days) => {
      const date = localOf(day * DAY, 'UTC').date
      const program = yearly(days, everyMonths)
      const next = nextOccurrence(program, date, noon, facts)!
      expect(next.at).toBeGreaterThan(noon)
      // Asked an instant before it, it is the same; asked at it, the one after.
      expect(nextOccurrence(program, date, next.at - 1, facts)).toEqual(next)
      expect(nextOccurrence(program, date, next.at, facts)!.at).toBeGreaterThan(next.at)
      expect(nearestReturn(date, { everyMonths }, next.occursOn)).toBe(next.occursOn)
    }))
  })
})

describe('who comes in by the date they would have joined on', () => {
  const program: Program = { steps: [mail('one', { kind: 'at-once' }), mail('two', after(2)), mail('three', after(5))] }
  it.each([[1, 'two', 1], [2, 'three', 5], [6.9, 'three', 0.1], [7, null, null]])('%s days ago stands before %s', (days, stepId, ahead) => {
    const since = standingSince(program, noon - days * DAY, noon, facts)
    expect([since.stepId, since.dueAt === null ? null : Math.round((since.dueAt - noon) / DAY * 10) / 10, since.doneStepIds]).toEqual([
      stepId, ahead, [],
    ])
  })
})

describe('from a step on', () => {
  const steps: Step[] = [mail('a', after(1)), {
    id: 'f', kind: 'fork', when: { kind: 'at-once' }, ifPast: 'at-once', zone: 'workspace',
    ways: [{ id: 'w', who: { kind: 'all', of: [] }, steps: [mail('b', after(1))] }], otherwise: [mail('c', after(1))],
  }, mail('d', after(1))]
  it('counts who stands before it, and who has come further, in reading order', () => {
    expect(['a', 'f', 'b', 'c', 'd', null].map(id => hasComeTo({ steps }, id, 'b'))).toEqual([false, false, true, true, true, true])
  })
})

describe('what a draft changes', () => {
  const draft = (steps: DraftStep[], more: Partial<CourseDraft> = {}): CourseDraft => ({
    listId: 1, wayInTagIds: [1], again: 'once', steps, ...more,
  })
  const one = newEmail('one', { kind: 'at-once' })
  const [two, three] = [newEmail('two', after(1)), newEmail('three', after(1))]
  const tell = (before: CourseDraft, next: CourseDraft) =>
    changesBetween(before, next).steps.map(({ step, what }) => `${step.id} ${what.join(' ')}`)

  it('says of every step what it is, and of those that are as they were nothing', () => {
    expect(tell(draft([one, two]), draft([one, two]))).toEqual([])
    expect(tell(draft([one, two]), draft([one, { ...two, when: after(3) }]))).toEqual(['two retimed'])
    expect(tell(draft([one, two]), draft([{ ...one, content: { ...one.content, workingTitle: 'x' } }, { ...two, paused: true }]))).toEqual([
      'one reworded', 'two paused',
    ])
    expect(tell(draft([one, two]), draft([one, three, two]))).toEqual(['three added'])
    expect(tell(draft([one, two, three]), draft([one, three, two]))).toEqual(expect.arrayContaining(['three moved']))
    expect(tell(draft([one, two]), draft([two]))).toEqual(['one removed'])
    expect(tell(draft([one, two]), draft([{ ...one, reactions: [{ id: 'r', on: 'opened', then: [] }] }, two]))).toEqual(['one changed'])
  })

  it('left out and empty say the same; doors are told of by what they are', () => {
    expect(changesBetween(draft([one], { wayInListIds: [], waysOut: [] }), draft([one])).entryParts).toEqual([])
    expect(changesBetween(
      draft([one]), draft([one], { again: 'always', wayInListIds: [2], entry: { kind: 'tag', tagId: 3, since: null } }),
    ).entryParts).toEqual(['wayInListIds', 'entry', 'again'])
  })

  it('knows a new end, and an end that is one', () => {
    const program = (...steps: Step[]): Program => ({ steps })
    const [a, b, c] = ['a', 'b', 'c'].map(id => mail(id, after(1)))
    expect(newEnd(program(a!), program(a!, b!, c!))).toBe('b')
    expect(newEnd(program(a!, b!), program(b!, a!))).toBeNull()
    expect(newEnd(program(a!), program(b!, a!))).toBeNull()
    expect(newEnd(program(a!), program(b!))).toBeNull()
  })
})
