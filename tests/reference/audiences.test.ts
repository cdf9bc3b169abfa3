/** Set arithmetic of audiences; common practice, no source. */
import { describe, expect, it } from 'vitest'
import type { Condition, Moment } from '#core/audience/condition'
import { holds, type PersonFacts } from '#core/audience/meaning'
import { DAY } from '#core/time/zone'

const NOW = Date.UTC(2026, 10, 25, 12)
const moment: Moment = {
  now: NOW, zone: 'UTC', today: '2026-11-25', score: { halfLifeDays: 60, points: {} }, consent: { countries: ['DE'], unknownNeeds: false },
  segments: new Map(),
}
const person = (more: Partial<PersonFacts>): PersonFacts => ({
  id: 1, status: 'active', source: 'page:kit', createdAt: NOW - 100 * DAY, zone: null, country: null, consentAt: null, readAt: null,
  fetchedAt: null,
  lists: [], tags: [], fields: [], brought: { first: null, latest: null }, optIns: [], emails: [], purchases: [], checkouts: [],
  noMore: [], waits: [], acted: [], score: { known: null }, enrolments: [], ...more,
})
const tag = (tagId: number): Condition => ({ kind: 'tag', tagId, since: null })
const but = (gets: Condition[], never: Condition[]): Condition => ({
  kind: 'all', of: [{ kind: 'all', of: gets }, { kind: 'none', of: never }],
})
const held = (...ids: number[]) => ids.map(tagId => ({ tagId, sinceAt: NOW - DAY }))

describe('never wins', () => {
  it('a person with an included and an excluded tag gets nothing', () => {
    const audience = but([tag(1)], [tag(2)])
    expect([held(1), held(2), held(1, 2), []].map(tags => holds(audience, person({ tags }), moment))).toEqual([true, false, false, false])
  })

  it('everybody minus those of a region without consent', () => {
    const audience = but([], [{ kind: 'consent', is: 'missing' }])
    const of = (country: string | null, consentAt: number | null) => holds(audience, person({ country, consentAt }), moment)
    expect([of('DE', null), of('DE', NOW - DAY), of('US', null), of(null, null)]).toEqual([false, true, true, true])
  })
})

it('joined within 7 days is a newcomer: a rolling 7 times 24 hours, the edge included', () => {
  const newcomer: Condition = { kind: 'arrived', when: { kind: 'last-days', days: 7 } }
  expect([0, 7 * DAY - 1, 7 * DAY, 7 * DAY + 1].map(age => holds(newcomer, person({ createdAt: NOW - age }), moment))).toEqual([
    true, true, true, false,
  ])
})
