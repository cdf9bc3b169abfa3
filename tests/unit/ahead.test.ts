/** Reckoning ahead for many at once, against reckoning for each of them alone. */
import fc from 'fast-check'
import { IANAZone } from 'luxon'
import { describe, expect, it } from 'vitest'
import { EQUAL_SHARES, dependsOf, QUARTER, forecaster, sendsUntil, type Cohort } from '#core/sequence/ahead'
import type { Enrolment } from '#core/sequence/journey'
import type { SampleFacts } from '#core/sequence/dates'
import { allSteps, type Program, type Step } from '#core/sequence/program'
import { ALWAYS, daily } from '#core/time/hours'
import { DAY, HOUR, MINUTE, offsetAt } from '#core/time/zone'
import { anyInstant, anyStep, anyZone } from './anyStep'

/** Courses as they are mostly written: hours and days, and times like 08:30; and any others. */
const anyUsual = fc.oneof(
  fc.record({
    kind: fc.constant('elapsed' as const), count: fc.integer({ min: 1, max: 60 }), unit: fc.constantFrom('hours' as const, 'days' as const),
    from: fc.constantFrom('previous' as const, 'previous' as const, 'joining' as const),
  }),
  fc.record({ kind: fc.constant('next-time' as const), time: fc.constantFrom('08:30', '00:00', '23:45') }),
  fc.record({
    kind: fc.constant('calendar-day' as const), day: fc.nat(4), time: fc.constantFrom('09:00', '18:15'),
    from: fc.constantFrom('previous' as const, 'joining' as const),
  }),
)
const anyRow = fc.oneof(
  fc.array(fc.tuple(anyStep, fc.nat(9)), { minLength: 1, maxLength: 7 }),
  fc.array(fc.tuple(fc.record({
    when: anyUsual, ifPast: fc.constantFrom('at-once' as const, 'at-once' as const, 'at-once' as const, 'skip' as const),
    zone: fc.constantFrom('workspace' as const, 'subscriber' as const),
  }), fc.nat(9)), { minLength: 1, maxLength: 7 }),
)
/** Mostly emails; a hold, a fork and a jump among them. */
const anyProgram = anyRow.map((row): Program => {
  const step = (base: Pick<Step, 'when' | 'ifPast' | 'zone'>, what: number, id: string): Step => {
    const inner = { ...base, id: `${id}x`, kind: 'email' as const, messageId: 1 }
    if (what === 0) return {
      ...base, id, kind: 'hold', until: { kind: 'event', when: { kind: 'bought', thingId: null } }, atMost: { count: 36, unit: 'hours' },
      did: [inner], didNot: [],
    }
    if (what === 1) {
      return { ...base, id, kind: 'fork', ways: [{ id: 'w', who: { kind: 'score', atLeast: 1 }, steps: [inner] }], otherwise: [] }
    }
    if (what === 2) return { ...base, id, kind: 'jump', when: { kind: 'elapsed', count: 2, unit: 'days', from: 'previous' }, toId: 's0' }
    return { ...base, id, kind: 'email', messageId: 1 }
  }
  return { steps: row.map(([base, what], n) => step(base, what, `s${n}`)) }
})
const anyHours = fc.constantFrom(ALWAYS, ALWAYS, daily([1, 2, 3, 4, 5], '08:00', '17:30'))

describe('what comes to many', () => {
  it('is what comes to each of them, in the stretch of time it comes in, whichever of them was reckoned first', () => {
    const buckets = new Map<number, number>()
    fc.assert(fc.property(anyProgram, anyInstant, anyZone, fc.option(anyZone), anyHours, fc.nat(6), fc.array(fc.nat(9)), fc.integer({
      min: 0, max: 20 * DAY,
    }), fc.array(
      fc.integer({ min: 0, max: 3 * DAY }), { minLength: 2, maxLength: 4 },
    ), (program, at, workspaceZone, personZone, hours, standsAt, done, joinedBefore, dues) => {
      const steps = allSteps<Step>(program.steps)
      const { id: stepId } = steps[standsAt % steps.length]!
      // Some of it they had already, perhaps of what is still ahead: steps can be moved while they stand inside.
      const doneStepIds = [...new Set(done.map(n => steps[n % steps.length]!.id))].filter(id => id !== stepId)
      const { bucket, joining } = dependsOf(program)
      buckets.set(bucket, (buckets.get(bucket) ?? 0) + 1)
      const facts: SampleFacts = { workspaceZone, personZone, hours, dateOf: () => null }
      const whole = (instant: number) => Math.floor(instant / bucket) * bucket
      const until = at + 40 * DAY
      const before = joining ? whole(joinedBefore) : joinedBefore
      const alike: Cohort = {
        stepId, doneStepIds, justAsked: before === 0 && doneStepIds.length === 0, limitAfter: null, joinedBefore: joining ? before : null,
      }
      const many = forecaster(until, program, alike, facts, EQUAL_SHARES)
      for (const due of dues) {
        const dueAt = at + due
        const joinedAt = dueAt - before
        const alone: Enrolment = {
          status: 'open', stepId, dueAt, joinedAt, previousAt: joinedAt, stillMs: 0, heldSince: null, limitAt: null, hops: 0,
          pausedAt: null, resumedAt: null, doneStepIds, ownAct: true,
        }
        const said = (sends: { stepId: string, at: number, part: number }[]) => sends.filter(send => whole(send.at) < whole(until) - DAY)
          .map(send => `${send.stepId} ${whole(send.at)} ${send.part.toFixed(6)}`).sort()
        expect(said(many(whole(dueAt)).map(({ stepId, after, part }) => ({ stepId, at: whole(dueAt) + after, part }))))
          .toEqual(said(sendsUntil(program, alone, until, facts).map(({ stepId, plannedAt, part }) => ({ stepId, at: plannedAt, part }))))
      }
    }), { numRuns: 1500 })
    // It was tried with every grain that there is.
    expect([...buckets.keys()].sort((a, b) => a - b)).toEqual([1, MINUTE, QUARTER])
    expect(Math.min(...buckets.values())).toBeGreaterThan(30)
  })

  it('tells seconds apart where a moment just past is passed over', () => {
    const program: Program = { steps: [{
      id: 'a', kind: 'email', when: { kind: 'elapsed', count: 1, unit: 'hours', from: 'previous' }, ifPast: 'at-once', zone: 'workspace',
      messageId: 1,
    }, {
      id: 'b', kind: 'email', when: { kind: 'calendar-day', day: 0, time: '13:00', from: 'previous' }, ifPast: 'skip', zone: 'workspace',
      messageId: 2,
    }] }
    const noon = Date.UTC(2026, 10, 26, 12)
    const sendsFrom = forecaster(
      noon + DAY, program, { stepId: 'a', doneStepIds: [], justAsked: false, limitAfter: null, joinedBefore: null },
      { workspaceZone: 'UTC', personZone: null, hours: ALWAYS, dateOf: () => null }, EQUAL_SHARES,
    )
    expect(dependsOf(program).bucket).toBe(1)
    expect([noon + HOUR, noon + HOUR + 1].map(dueAt => sendsFrom(dueAt).map(({ stepId }) => stepId))).toEqual([['a', 'b'], ['a']])
  })

  it('is whole again where ways meet at the same moment, so that no range is said where nothing is open', () => {
    const mail = (id: string, hours: number): Step => ({
      id, kind: 'email', when: { kind: 'elapsed', count: hours, unit: 'hours', from: 'previous' }, ifPast: 'at-once', zone: 'workspace',
      messageId: 1,
    })
    const program: Program = { steps: [
      {
        id: 'f', kind: 'fork', when: { kind: 'at-once' }, ifPast: 'at-once', zone: 'workspace',
        ways: [1, 2].map(n => ({ id: `w${n}`, who: { kind: 'score', atLeast: n }, steps: [mail(`in${n}`, 2)] })), otherwise: [],
      },
      { ...mail('last', 0), when: { kind: 'next-time', time: '18:00' } },
    ] }
    const noon = Date.UTC(2026, 10, 26, 12)
    const sendsFrom = forecaster(
      noon + DAY, program, { stepId: 'f', doneStepIds: [], justAsked: false, limitAfter: null, joinedBefore: null },
      { workspaceZone: 'UTC', personZone: null, hours: ALWAYS, dateOf: () => null }, () => [0.2, 0.3, 0.5],
    )(noon)
    expect(sendsFrom.map(({ stepId, after, part }) => [stepId, after / HOUR, part])).toEqual([
      ['in1', 2, 0.2], ['last', 6, 1], ['in2', 2, 0.3],
    ])
  })
})

describe('the offset of a zone, remembered by days', () => {
  /** Clocks set at odd moments: a minute past midnight, by half an hour, over the date line, at noon of another place. */
  const ODD: [zone: string, around: number][] = [
    ['America/St_Johns', Date.UTC(2006, 3, 2, 3, 31)], ['Australia/Lord_Howe', Date.UTC(2026, 3, 4, 15)],
    ['Pacific/Apia', Date.UTC(2011, 11, 30, 10)],
    ['Asia/Gaza', Date.UTC(2012, 2, 29, 22)], ['Asia/Kathmandu', Date.UTC(1985, 11, 31, 18, 30)],
    ['Africa/Casablanca', Date.UTC(2026, 1, 15, 2)], ['Pacific/Chatham', Date.UTC(2026, 3, 4, 14)],
  ]
  it('is what the zone itself says, also on the days on which its clock is set', () => {
    fc.assert(fc.property(fc.constantFrom(...ODD), fc.integer({ min: -2 * DAY, max: 2 * DAY }), ([zone, around], by) => {
      expect(offsetAt(around + by, zone)).toBe(new IANAZone(zone).offset(around + by) * MINUTE)
    }), { numRuns: 2000 })
    for (const [zone, around] of ODD) {
      for (const by of [-1, 0, 1]) expect(offsetAt(around + by, zone)).toBe(new IANAZone(zone).offset(around + by) * MINUTE)
    }
  })
})
