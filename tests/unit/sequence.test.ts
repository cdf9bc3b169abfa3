import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { advance } from '#core/sequence/advance'
import type { Enrolment, Facts } from '#core/sequence/journey'
import { sendsUntil } from '#core/sequence/ahead'
import { datesFor } from '#core/sequence/dates'
import type { EmailStep, Program } from '#core/sequence/program'
import type { Timing } from '#core/time/when'
import { ALWAYS } from '#core/time/hours'
import { UNIT_MS, targetOf } from '#core/time/when'
import { addDays, dayNumber, instantOf, localOf } from '#core/time/zone'
import { anyInstant, anyStep, anyTime, anyZone } from './anyStep'

const anyProgram: fc.Arbitrary<Program> = fc.array(anyStep, { minLength: 1, maxLength: 8 })
  .map(steps => ({ steps: steps.map((step, index): EmailStep => ({ id: `s${index}`, kind: 'email', messageId: index, ...step })) }))
const anyFacts: fc.Arbitrary<Facts> = fc.record({ workspaceZone: anyZone, personZone: fc.option(anyZone) }).map(zoned => ({
  ...zoned, hours: ALWAYS, dateOf: () => null, holds: () => false, reevaluateAt: () => null, awaited: () => ({ kind: 'open' }),
}))

const join = (program: Program, at: number, facts: Facts) => advance(program, null, { kind: 'joined', at, ownAct: true }, facts).enrolment

describe('a calendar day at a clock time', () => {
  it('shows that time on that day on the wall, unless the clocks skip it', () => {
    fc.assert(fc.property(anyInstant, anyZone, fc.nat(400), anyTime, (at, zone, day, time) => {
      const target = targetOf({ kind: 'calendar-day', day, time, from: 'joining' }, { joinedAt: at, previousAt: at }, zone, () => null)!
      const wanted = addDays(localOf(at, zone).date, day)
      const shown = localOf(target, zone)
      if (shown.date === wanted && shown.time === time) {
        // ... and it is the first such instant of the day
        expect(localOf(target - 3_600_000, zone)).not.toEqual(shown)
      }
      else {
        expect(instantOf(wanted, time, zone)).toBe(target)
        // Only a gap moves it, and never to an earlier reading of the clock.
        const later = dayNumber(shown.date) > dayNumber(wanted) || (shown.date === wanted && shown.time > time)
        expect(later).toBe(true)
      }
    }))
  })

  it('does not depend on the hour of joining within one local day', () => {
    fc.assert(fc.property(anyZone, fc.nat(6000), anyTime, anyTime, anyTime, (zone, dayNo, first, second, time) => {
      const date = addDays('2015-01-01', dayNo)
      const when: Timing = { kind: 'calendar-day', day: 2, time, from: 'joining' }
      const targets = [first, second].map((clock) => {
        const at = instantOf(date, clock, zone)
        return localOf(at, zone).date === date ? targetOf(when, { joinedAt: at, previousAt: at }, zone, () => null) : null
      })
      if (targets[0] !== null && targets[1] !== null) expect(targets[0]).toBe(targets[1])
    }))
  })
})

describe('a course', () => {
  it('sends each step at most once, in order, never before the one before', () => {
    fc.assert(fc.property(anyProgram, anyInstant, anyFacts, (program, at, facts) => {
      const sends = sendsUntil(program, join(program, at, facts), Number.POSITIVE_INFINITY, facts)
      const order = sends.map(send => program.steps.findIndex(step => step.id === send.stepId))
      expect(order).toEqual([...new Set(order)].toSorted((a, b) => a - b))
      expect(sends.map(send => send.plannedAt)).toEqual(sends.map(send => send.plannedAt).toSorted((a, b) => a - b))
      expect(sends.every(send => send.plannedAt >= at)).toBe(true)
    }))
  })

  it('skips nothing unless a step asks to be skipped', () => {
    fc.assert(fc.property(anyProgram, anyInstant, anyFacts, (program, at, facts) => {
      const dates = datesFor(program, at, facts)
      program.steps.forEach((step, index) => {
        if (step.ifPast === 'at-once') expect(dates[index]!.plannedAt).not.toBeNull()
      })
    }))
  })

  it('counts from planned times: a machine that runs hours late moves nothing', () => {
    fc.assert(fc.property(anyProgram, anyInstant, anyFacts, fc.nat(100 * 3_600_000), (program, at, facts, late) => {
      const punctual = sendsUntil(program, join(program, at, facts), Number.POSITIVE_INFINITY, facts)
      const sent: { stepId: string, plannedAt: number }[] = []
      let state: Enrolment = join(program, at, facts)
      while (state.status === 'open') {
        const moved = advance(program, state, { kind: 'due', at: state.dueAt! + late }, facts)
        for (const effect of moved.effects) if (effect.kind === 'send') sent.push({ stepId: effect.step.id, plannedAt: effect.plannedAt })
        state = moved.enrolment
      }
      expect(sent).toEqual(punctual.map(({ stepId, plannedAt }) => ({ stepId, plannedAt })))
    }))
  })

  it('measures elapsed time on a stopwatch, also across a change of clocks', () => {
    fc.assert(fc.property(anyInstant, anyFacts, fc.integer({ min: 1, max: 60 }), fc.constantFrom(
      ...Object.keys(UNIT_MS) as (keyof typeof UNIT_MS)[],
    ), (at, facts, count, unit) => {
      const step: EmailStep = {
        id: 'a', kind: 'email', when: { kind: 'elapsed', count, unit, from: 'previous' }, ifPast: 'skip', zone: 'subscriber', messageId: 1,
      }
      expect(datesFor({ steps: [step] }, at, facts)[0]!.plannedAt! - at).toBe(count * UNIT_MS[unit])
    }))
  })
})

const step = (id: string, when: Timing, messageId: number | null = 1, ifPast: 'at-once' | 'skip' = 'at-once'): EmailStep => ({
  id, kind: 'email', when, ifPast, zone: 'workspace', messageId,
})
const lisbon: Facts = {
  workspaceZone: 'Europe/Lisbon', personZone: null, hours: ALWAYS, dateOf: () => null, holds: () => false, reevaluateAt: () => null,
  awaited: () => ({ kind: 'open' }),
}
const days = (count: number, from: 'previous' | 'joining' = 'previous'): Timing => ({ kind: 'elapsed', count, unit: 'days', from })
const noon = Date.UTC(2026, 10, 26, 12)
const DAY = 86_400_000

describe('a step whose moment is already past', () => {
  it('goes at once, or is skipped and the next counts from where the person stood', () => {
    const past: Timing = { kind: 'calendar-day', day: 0, time: '08:00', from: 'joining' }
    const atOnce = datesFor({ steps: [step('a', past), step('b', days(1))] }, noon, lisbon)
    expect(atOnce.map(date => date.plannedAt)).toEqual([noon, noon + DAY])
    const skipped = datesFor({ steps: [step('a', past, 1, 'skip'), step('b', days(1))] }, noon, lisbon)
    expect(skipped.map(date => date.plannedAt)).toEqual([null, noon + DAY])
  })
})

describe('an email that is still empty', () => {
  it('holds people before it, and lets them on from the same base once it is written', () => {
    const outline: Program = { steps: [step('a', { kind: 'at-once' }), step('b', days(1), null), step('c', days(1))] }
    const joined = join(outline, noon, lisbon)
    const stood = advance(outline, joined, { kind: 'due', at: noon }, lisbon).enrolment
    expect(stood).toMatchObject({ status: 'open', stepId: 'b', dueAt: null })
    const written: Program = { steps: outline.steps.map(s => ({ ...s, messageId: 1 })) }
    expect(
      advance(written, stood, { kind: 'replan', at: noon + 3_600_000, from: outline, why: 'published' }, lisbon).enrolment.dueAt,
    ).toBe(noon + DAY)
    expect(
      advance(written, stood, { kind: 'replan', at: noon + 5 * DAY, from: outline, why: 'published' }, lisbon).enrolment.dueAt,
    ).toBe(noon + 5 * DAY)
  })
})

describe('a course that is changed while someone is inside', () => {
  const old: Program = { steps: [step('a', { kind: 'at-once' }), step('b', days(2)), step('c', days(2))] }
  const beforeB = advance(old, join(old, noon, lisbon), { kind: 'due', at: noon }, lisbon).enrolment

  it.each<[string, EmailStep[], Partial<Enrolment>]>([
    [
      'keeps the step where it still stands',
      [step('a', { kind: 'at-once' }), step('new', days(1)), step('b', days(2)), step('c', days(2))],
      { stepId: 'b', dueAt: noon + 2 * DAY },
    ],
    [
      'works a changed when out from the same base', [step('a', { kind: 'at-once' }), step('b', days(5)), step('c', days(2))],
      { stepId: 'b', dueAt: noon + 5 * DAY },
    ],
    [
      'sends at once what the change puts into the past',
      [step('a', { kind: 'at-once' }), step('b', { kind: 'elapsed', count: 1, unit: 'hours', from: 'previous' })],
      { stepId: 'b', dueAt: noon + DAY },
    ],
    [
      'stands before the next survivor where the step is gone', [step('a', { kind: 'at-once' }), step('c', days(2))],
      { stepId: 'c', dueAt: noon + 2 * DAY },
    ],
    [
      'never repeats a sent step that was moved further back', [step('b', days(2)), step('a', days(1)), step('c', days(2))],
      { stepId: 'b', dueAt: noon + 2 * DAY },
    ],
    ['ends where nothing is left', [step('a', { kind: 'at-once' })], { status: 'finished', stepId: null, dueAt: null }],
  ])('%s', (_what, steps, expected) => {
    expect(
      advance({ steps }, beforeB, { kind: 'replan', at: noon + DAY, from: old, why: 'published' }, lisbon).enrolment,
    ).toMatchObject(expected)
  })

  it('never sends a step twice in one visit, whatever order it is put in', () => {
    fc.assert(fc.property(fc.shuffledSubarray(['a', 'b', 'c', 'd', 'e']), (ids) => {
      const next: Program = { steps: ids.map(id => step(id, days(1))) }
      const moved = advance(next, beforeB, { kind: 'replan', at: noon + DAY, from: old, why: 'published' }, lisbon).enrolment
      const sends = sendsUntil(next, moved, Number.POSITIVE_INFINITY, lisbon).map(send => send.stepId)
      expect(sends).not.toContain('a')
      expect(new Set(sends).size).toBe(sends.length)
    }))
  })
})

describe('a zone that changes midway', () => {
  it('moves unsent local times and keeps elapsed ones; what is now past goes at once, even a skip', () => {
    const program: Program = { steps: [step('a', { kind: 'calendar-day', day: 1, time: '08:00', from: 'joining' }, 1, 'skip')] }
    const stood = join(program, noon, lisbon)
    const tokyo: Facts = { ...lisbon, workspaceZone: 'Asia/Tokyo' }
    const at = Date.UTC(2026, 10, 26, 20)
    expect(advance(program, stood, { kind: 'replan', at, from: program, why: 'zone' }, tokyo).enrolment.dueAt).toBe(Date.UTC(
      2026, 10, 26, 23,
    ))
    const later = Date.UTC(2026, 10, 27, 1)
    expect(advance(program, stood, { kind: 'replan', at: later, from: program, why: 'zone' }, tokyo).enrolment).toMatchObject({
      stepId: 'a', dueAt: later,
    })
    const elapsed: Program = { steps: [step('a', days(1))] }
    const waiting = join(elapsed, noon, lisbon)
    expect(advance(elapsed, waiting, { kind: 'replan', at, from: elapsed, why: 'zone' }, tokyo).enrolment.dueAt).toBe(noon + DAY)
  })
})

describe('an enrolment that is over', () => {
  it('goes nowhere', () => {
    const program: Program = { steps: [step('a', days(1))] }
    const left = advance(program, join(program, noon, lisbon), { kind: 'left', at: noon }, lisbon).enrolment
    expect(left).toMatchObject({ status: 'left', dueAt: null })
    expect(() => advance(program, left, { kind: 'due', at: noon + DAY }, lisbon)).toThrow(/left/)
    expect(() => advance(program, join(program, noon, lisbon), { kind: 'due', at: noon }, lisbon)).toThrow(/not due/)
  })
})

describe('a pause', () => {
  it('sends nothing while it lasts, passes nobody over a step, and makes every wait longer by just its length', () => {
    const waits = fc.array(fc.integer({ min: 1, max: 400 }), { minLength: 2, maxLength: 6 })
    fc.assert(fc.property(anyInstant, waits, fc.nat(5), fc.integer({
      min: 1, max: 90 * 86_400_000,
    }), fc.nat(399), anyFacts, (at, hours, when, length, into, facts) => {
      const program: Program = { steps: hours.map((count, index) => ({
        id: `s${index}`, kind: 'email', messageId: index, when: { kind: 'elapsed', count, unit: 'hours', from: 'previous' }, ifPast: 'skip',
        zone: 'workspace',
      })) }
      const story = (pauses: boolean) => {
        const sent: number[] = []
        let state = join(program, at, facts)
        while (state.status === 'open') {
          if (pauses && sent.length === Math.min(when, hours.length - 1) && state.stillMs === 0) {
            // Somewhere on the way to the next step.
            const since = Math.min(state.previousAt + into * 3_600_000, state.dueAt! - 1)
            state = advance(program, state, { kind: 'paused', at: since }, facts).enrolment
            expect(state.dueAt).toBeNull()
            state = advance(program, state, { kind: 'resumed', at: since + length }, facts).enrolment
            expect(state.stillMs).toBe(length)
          }
          const moved = advance(program, state, { kind: 'due', at: state.dueAt! }, facts)
          sent.push(...moved.effects.flatMap(effect => effect.kind === 'send' ? effect.plannedAt : []))
          state = moved.enrolment
        }
        return sent
      }
      const [plain, paused] = [story(false), story(true)]
      const before = Math.min(when, hours.length - 1)
      expect(paused).toEqual(plain.map((sentAt, index) => index < before ? sentAt : sentAt + length))
    }), { numRuns: 300 })
  })
})
