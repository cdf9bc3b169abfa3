/** What may come in as a course: a tree of steps as deep as it is, and nothing that no step has. */
import { describe, expect, it } from 'vitest'
import type { CourseDraft, DraftStep } from '#core/sequence/draft'
import { ALWAYS } from '#core/time/hours'
import { courseInput } from '#server/courseSchemas'
import { step } from './workshop'

const base = (id: string) => ({ id, when: { kind: 'at-once' as const }, ifPast: 'at-once' as const, zone: 'workspace' as const })
const who = { kind: 'all' as const, of: [{ kind: 'tag' as const, tagId: 1, since: null }] }
const draft = (steps: DraftStep[], more: Partial<CourseDraft> = {}) => ({
  name: 'Course', draft: { listId: 1, wayInTagIds: [], again: 'once', hours: ALWAYS, steps, ...more },
})
const problem = (steps: unknown[], more = {}) => courseInput.validate(draft(steps as DraftStep[], more)).error?.message ?? 'taken'

const hold = (did: DraftStep[]): DraftStep => ({
  ...base('h'), kind: 'hold', until: { kind: 'event', when: { kind: 'clicked', thingId: null, stepId: 'a' } },
  atMost: { count: 2, unit: 'days' }, did, didNot: [],
})
const whole: DraftStep[] = [
  step('a', { kind: 'at-once' }),
  hold([{
    ...base('f'), kind: 'fork',
    ways: [{ id: 'w', who, steps: [hold([{ ...base('d'), kind: 'do', paused: true, then: [{ kind: 'give-tag', tagId: 1 }] }])] }],
    otherwise: [{ ...base('e'), kind: 'end' }],
  }]),
  { ...base('j'), when: { kind: 'date-field', fieldId: 1, days: -7, time: '08:00', everyMonths: 12 }, kind: 'jump', toId: 'a' },
]

describe('a course that comes in', () => {
  it('comes out as it was, ways within ways included', () => {
    const { error, value } = courseInput.validate(draft(whole))
    expect(error).toBeUndefined()
    expect(value.draft.steps).toEqual(whole)
  })

  it.each<[string, unknown]>([
    ['a kind that is none', { ...base('x'), kind: 'poem' }],
    ['a wait without an end', { ...hold([]), atMost: { count: 0, unit: 'days' } }],
    ['a way called like one of ours', { ...base('f'), kind: 'fork', ways: [{ id: 'otherwise', who, steps: [] }], otherwise: [] }],
    [
      'an email that is sent by an action',
      { ...base('d'), kind: 'do', then: [{ kind: 'email', listId: 1, messageId: null, content: {} }] },
    ],
    ['a day that is none', { ...step('a', { kind: 'date', date: '2026-02-30', time: '08:00' }) }],
    ['an eighth day of the week', { ...step('a', { kind: 'next-weekday', weekday: 8 as 1, time: '08:00' }) }],
    ['something that no step has', { ...base('e'), kind: 'end', extra: true }],
  ])('is refused with %s, wherever it lies', (_what, wrong) => {
    expect(problem([wrong])).not.toBe('taken')
    expect(problem([step('a', { kind: 'at-once' }), hold([wrong as DraftStep])])).not.toBe('taken')
  })

  it('is refused with hours that are no week', () => {
    expect([problem(whole, { hours: '1'.repeat(335) }), problem(whole, { hours: null })].map(said => said === 'taken')).toEqual([
      false, true,
    ])
  })
})
