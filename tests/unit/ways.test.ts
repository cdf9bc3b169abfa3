/**
 * Forks, holds, actions and jumps, against a second engine: slow, obvious, and
 * here only. It walks a course like a reader of its outline would, row by row,
 * and knows everything that will happen beforehand.
 */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Condition } from '#core/audience/condition'
import { JUDGING, MOST_HOPS, advance } from '#core/sequence/advance'
import type { Advanced, Enrolment, Facts } from '#core/sequence/journey'
import { sendsUntil } from '#core/sequence/ahead'
import { datesFor } from '#core/sequence/dates'
import { allSteps, placesOf, type EmailStep, type ForkStep, type HoldStep, type Program, type Step } from '#core/sequence/program'
import { ALWAYS, daily } from '#core/time/hours'
import { planOf, type Timing } from '#core/time/when'
import { DAY, HOUR, instantOf } from '#core/time/zone'

const zone = 'Europe/Lisbon'
const noon = Date.UTC(2026, 10, 26, 12)
const ATONCE: Timing = { kind: 'at-once' }
const hours = (count: number): Timing => ({ kind: 'elapsed', count, unit: 'hours', from: 'previous' })
const base = (id: string, when: Timing = ATONCE) => ({ id, when, ifPast: 'at-once' as const, zone: 'workspace' as const })
const mail = (id: string, when: Timing = ATONCE): EmailStep => ({ ...base(id, when), kind: 'email', messageId: 1 })
/** A condition that stands for a flag which can be set and taken away. */
const flag = (n: number): Condition => ({ kind: 'score', atLeast: n })
const fork = (id: string, ways: [n: number, steps: Step[]][], otherwise: Step[] = [], when: Timing = ATONCE): ForkStep => ({
  ...base(id, when), kind: 'fork', ways: ways.map(([n, steps]) => ({ id: `w${n}`, who: flag(n), steps })), otherwise,
})
const hold = (id: string, word: string | number, most: number, did: Step[] = [], didNot: Step[] = [], when: Timing = ATONCE): HoldStep => ({
  ...base(id, when), kind: 'hold', atMost: { count: most, unit: 'hours' }, did, didNot,
  until: typeof word === 'number'
    ? { kind: 'condition', who: flag(word) }
    : { kind: 'event', when: { kind: 'todo-done', thingId: null, text: word } },
})

/** What happens to the person: a word is said, or a flag set or taken away. */
type Happening = { at: number, word: string } | { at: number, flag: number, on: boolean }
interface Told { at: number, what: string }

/* The engine, driven like the playing loop does it */

function play(program: Program, happenings: Happening[], until = Number.POSITIVE_INFINITY): { told: Told[], state: Enrolment } {
  const told: Told[] = []
  let now = noon
  const facts: Facts = {
    workspaceZone: zone, personZone: null, hours: ALWAYS, dateOf: () => null, reevaluateAt: () => null,
    holds: who => happenings.filter(one => 'flag' in one && one.flag === (who as { atLeast: number }).atLeast && one.at <= now)
      .map(one => 'flag' in one && one.on).at(-1) ?? false,
    awaited(awaited, since) {
      const found = happenings.find(one => 'word' in one && one.word === awaited.when.text && one.at >= since && one.at <= now)
      return found ? { kind: 'happened', at: found.at } : { kind: 'open' }
    },
  }
  const note = ({ enrolment, effects }: Advanced) => {
    for (const effect of effects) {
      if (effect.kind === 'send') told.push({ at: effect.plannedAt, what: `send ${effect.step.id}` })
      else if (effect.kind === 'way') told.push({ at: effect.at, what: `${effect.step.id} ${effect.wayId}` })
      else if (effect.kind === 'finished' || effect.kind === 'stopped') told.push({ at: effect.at, what: effect.kind })
      else if (effect.kind === 'do') told.push({ at: effect.at, what: `do ${effect.step.id}` })
    }
    return enrolment
  }
  let state = note(advance(program, null, { kind: 'joined', at: noon, ownAct: true }, facts))
  for (const happening of [...happenings, { at: until, word: '' }]) {
    // At the same instant what happens comes first: at its limit a hold is over by its event.
    while (state.status === 'open' && state.dueAt !== null
      && (state.dueAt < happening.at || (state.dueAt === happening.at && state.heldSince === null))) {
      now = state.dueAt
      state = note(advance(program, state, { kind: 'due', at: now }, facts))
    }
    now = happening.at
    if (state.status === 'open' && state.heldSince !== null && Number.isFinite(now)) {
      state = note(advance(program, state, { kind: 'look', at: now }, facts))
    }
  }
  return { told, state }
}

/* The obvious engine */

class Jump {
  constructor(readonly toId: string) {}
}
const OVER = Symbol('the course is over')

/** `endless`: it goes round and round, and was given up after sixty jumps. */
function slowly(program: Program, happenings: Happening[]): { told: Told[], endless: boolean } {
  const told: Told[] = []
  const sent = new Set<string>()
  let at = noon
  const isOn = (n: number, when: number) =>
    happenings.filter(one => 'flag' in one && one.flag === n && one.at <= when).map(one => 'flag' in one && one.on).at(-1) ?? false
  const plan = (step: Step) => planOf(step.when, step.ifPast, { joinedAt: noon, previousAt: at }, zone, () => null).plannedAt

  function doOne(step: Step): void {
    if (step.kind === 'email' && sent.has(step.id)) return
    at = plan(step)
    switch (step.kind) {
      case 'email':
        sent.add(step.id)
        told.push({ at, what: `send ${step.id}` })
        return
      case 'do':
        told.push({ at, what: `do ${step.id}` })
        return
      case 'jump':
        throw new Jump(step.toId)
      case 'end':
        throw OVER as unknown as Error
      case 'fork': {
        const way = step.ways.find(({ who }) => isOn((who as { atLeast: number }).atLeast, at))
        told.push({ at, what: `${step.id} ${way?.id ?? 'otherwise'}` })
        return doRow(way?.steps ?? step.otherwise)
      }
      case 'hold': {
        const [since, limit] = [at, at + step.atMost.count * HOUR]
        const { until } = step
        const moments = happenings.filter(one => one.at >= since && one.at <= limit).map(one => one.at)
        const found = until.kind === 'event'
          ? happenings.find(one => 'word' in one && one.word === until.when.text && one.at >= since && one.at <= limit)?.at
          : [since, ...moments, limit].find(when => isOn((until.who as { atLeast: number }).atLeast, when))
        at = found ?? limit
        told.push({ at, what: `${step.id} ${found === undefined ? 'did-not' : 'did'}` })
        return doRow(found === undefined ? step.didNot : step.did)
      }
    }
  }
  function doRow(steps: Step[]): void {
    for (const step of steps) doOne(step)
  }
  /**
   * From a step on: the rest of its row, then the rest of the row that its fork or hold stands in, and so on outwards. False if it is not
   * in here.
   */
  function doFrom(row: Step[], id: string): boolean {
    for (const [n, step] of row.entries()) {
      if (step.id === id) {
        doRow(row.slice(n))
        return true
      }
      const rows = step.kind === 'fork'
        ? [...step.ways.map(({ steps }) => steps), step.otherwise]
        : step.kind === 'hold' ? [step.did, step.didNot] : []
      if (rows.some(inner => doFrom(inner, id))) {
        doRow(row.slice(n + 1))
        return true
      }
    }
    return false
  }

  let from = program.steps[0]?.id
  for (let jumps = 0; from !== undefined && jumps < 60;) {
    try {
      doFrom(program.steps, from)
      from = undefined
    }
    catch (thrown) {
      if (thrown === OVER) from = undefined
      else if (thrown instanceof Jump) {
        from = thrown.toId
        jumps++
      }
      else throw thrown
    }
  }
  const endless = from !== undefined
  if (!endless) told.push({ at, what: 'finished' })
  return { told, endless }
}

/* Courses and lives, thrown */

const anyWhen: fc.Arbitrary<Timing> = fc.oneof(fc.constant(ATONCE), fc.integer({ min: 1, max: 30 }).map(hours), fc.record({
  kind: fc.constant('calendar-day' as const), day: fc.nat(3), time: fc.constantFrom('08:00', '20:30'),
  from: fc.constantFrom('previous' as const, 'joining' as const),
}))
interface Sketch {
  kind: 'email' | 'do' | 'fork' | 'hold' | 'jump' | 'end', when: Timing, n: number, word: string | number, ways: Sketch[][],
}
const sketch = fc.letrec<{ step: Sketch, row: Sketch[] }>(tie => ({
  step: fc.record({
    kind: fc.constantFrom<Sketch['kind']>('email', 'email', 'email', 'do', 'fork', 'hold', 'jump', 'end'),
    when: anyWhen, n: fc.integer({ min: 1, max: 40 }), word: fc.constantFrom<string | number>('a', 'b', 1, 2),
    ways: fc.array(tie('row'), { minLength: 2, maxLength: 3, depthIdentifier: 'rows' }),
  }),
  row: fc.oneof(
    { depthSize: 'small', depthIdentifier: 'rows', withCrossShrink: true }, fc.constant<Sketch[]>([]),
    fc.array(tie('step'), { maxLength: 3 }),
  ),
})).step
const anyProgram = fc.array(sketch, { minLength: 1, maxLength: 6 }).map((sketches): Program => {
  let count = 0
  const lay = (row: Sketch[]): Step[] => row.map(({ kind, when, n, word, ways }): Step => {
    const id = `s${count++}`
    switch (kind) {
      case 'email': return mail(id, when)
      case 'do': return { ...base(id, when), kind, then: [] }
      case 'end': return { ...base(id, when), kind }
      // A jump takes time, so that every round does.
      case 'jump': return { ...base(id, hours(n)), kind, toId: `s${n}` }
      case 'fork': return fork(id, ways.slice(1).map((steps, at) => [at + 1, lay(steps)]), lay(ways[0]!), when)
      case 'hold': return hold(id, word, n, lay(ways[0]!), lay(ways[1]!), when)
    }
  })
  const steps = lay(sketches)
  const ids = allSteps<Step>(steps).map(({ id }) => id)
  for (const step of allSteps<Step>(steps)) if (step.kind === 'jump') step.toId = ids[Number(step.toId.slice(1)) % ids.length]!
  return { steps }
})
const anyLife = fc.array(fc.tuple(
  fc.integer({ min: 0, max: 200 }),
  fc.oneof(fc.record({ word: fc.constantFrom('a', 'b') }), fc.record({ flag: fc.constantFrom(1, 2), on: fc.boolean() })),
), { maxLength: 8 })
  .map(all => all.map(([after, what]): Happening => ({ at: noon + after * HOUR + 7 * 60_000, ...what })).sort((a, b) => a.at - b.at))

describe('a course with forks, holds, actions and jumps', () => {
  it('tells the same dated story as the obvious engine, for generated courses and lives', () => {
    let [ways, holds, jumps] = [0, 0, 0]
    fc.assert(fc.property(anyProgram, anyLife, (program, life) => {
      const { told: expected, endless } = slowly(program, life)
      const { told } = play(program, life, noon + 4000 * HOUR)
      // A course that goes round for ever is compared as far as both went.
      const upTo = endless ? Math.min(told.length, expected.length) : Number.POSITIVE_INFINITY
      expect(told.slice(0, upTo)).toEqual(expected.slice(0, upTo))
      if (expected.some(({ what }) => /w\d/.test(what))) ways++
      if (expected.some(({ what }) => what.endsWith(' did'))) holds++
      if (allSteps<Step>(program.steps).some(({ kind }) => kind === 'jump')) jumps++
    }), { numRuns: 3000 })
    // Courses in which none of it happens would prove little.
    expect([ways > 100, holds > 100, jumps > 500]).toEqual([true, true, true])
  })

  it('sends no email twice and never goes back in time, whatever is jumped', () => {
    fc.assert(fc.property(anyProgram, anyLife, (program, life) => {
      const { told } = play(program, life, noon + 4000 * HOUR)
      const sends = told.filter(({ what }) => what.startsWith('send'))
      expect(new Set(sends.map(({ what }) => what)).size).toBe(sends.length)
      expect(told.map(({ at }) => at)).toEqual(told.map(({ at }) => at).toSorted((a, b) => a - b))
    }), { numRuns: 1000 })
  })
})

const story = (program: Program, life: Happening[] = []) => play(program, life).told.map(({ at, what }) => `${(at - noon) / HOUR} ${what}`)

describe('a hold', () => {
  const course: Program = { steps: [mail('one'), hold('h', 'a', 24, [mail('yes', hours(1))], [mail('no')]), mail('last', hours(2))] }

  // Common practice, no source: at 23 h 59 it counts, at 24 h 01 it does not; and at the very limit the event wins (design, section 4).
  it.each([[24 - 1 / 60, 'did'], [24, 'did'], [24 + 1 / 60, 'did-not']])('of 24 hours with the answer after %d hours: %s', (after, way) => {
    const told = play(course, [{ at: noon + Math.round(after * 60) * 60_000, word: 'a' }]).told
    expect(told.map(({ what }) => what)).toEqual(['send one', `h ${way}`, way === 'did' ? 'send yes' : 'send no', 'send last', 'finished'])
    // The next step counts from the event or from the limit, never from when somebody looked.
    const from = way === 'did' ? noon + Math.round(after * 60) * 60_000 : noon + 24 * HOUR
    expect(told.slice(1).map(({ at }) => (at - from) / HOUR)).toEqual(way === 'did' ? [0, 1, 3, 3] : [0, 0, 2, 2])
  })

  it('passes at once where its condition is true already, and where it cannot happen any more', () => {
    expect(story({ steps: [hold('h', 1, 24, [mail('yes')], [mail('no')])] }, [{ at: noon - HOUR, flag: 1, on: true }])).toEqual([
      '0 h did', '0 send yes', '0 finished',
    ])
    const facts: Facts = {
      workspaceZone: zone, personZone: null, hours: ALWAYS, dateOf: () => null, holds: () => false, reevaluateAt: () => null,
      awaited: () => ({ kind: 'cannot' }),
    }
    const joined = advance(course, null, { kind: 'joined', at: noon, ownAct: true }, facts).enrolment
    const [sent, held] = [1, 2].reduce<Advanced[]>(
      (all, _) => [...all, advance(course, all.at(-1)?.enrolment ?? joined, { kind: 'due', at: noon }, facts)], [],
    )
    expect([sent!.effects[0]!.kind, held!.effects]).toEqual(['send', [{ kind: 'way', step: course.steps[1], wayId: 'did-not', at: noon }]])
  })

  it('of a condition that time alone makes true is looked at then', () => {
    const turns = noon + 5 * HOUR
    const facts: Facts = {
      workspaceZone: zone, personZone: null, hours: ALWAYS, dateOf: () => null, holds: (_, at) => at >= turns,
      reevaluateAt: (_, at) => at < turns ? turns : null, awaited: () => ({ kind: 'open' }),
    }
    const program: Program = { steps: [hold('h', 1, 24)] }
    const joined = advance(program, null, { kind: 'joined', at: noon, ownAct: true }, facts).enrolment
    const waits = advance(program, joined, { kind: 'due', at: noon }, facts).enrolment
    expect([waits.dueAt, waits.limitAt]).toEqual([turns, noon + 24 * HOUR])
    expect(advance(program, waits, { kind: 'due', at: turns }, facts).effects.map(({ kind }) => kind)).toEqual(['way', 'finished'])
  })
})

describe('a jump', () => {
  it('that never passes any time is stopped after a hundred steps, and says so', () => {
    const { told, state } = play(
      { steps: [mail('one'), { ...base('a'), kind: 'do', then: [] }, { ...base('j'), kind: 'jump', toId: 'a' }] }, [],
    )
    expect(told.at(-1)).toEqual({ at: noon, what: 'stopped' })
    expect(told.filter(({ what }) => what === 'do a').length).toBeLessThanOrEqual(MOST_HOPS)
    expect([state.status, state.dueAt]).toEqual(['open', null])
  })

  it('back over an email that was sent does not send it again', () => {
    expect(story({ steps: [
      mail('one'), fork('f', [[1, [{ ...base('e'), kind: 'end' }]]]), mail('two', hours(1)),
      { ...base('j', hours(5)), kind: 'jump', toId: 'one' },
    ] }, [{ at: noon + 7 * HOUR, flag: 1, on: true }]))
      .toEqual(['0 send one', '0 f otherwise', '1 send two', '6 f otherwise', '11 f w1', '11 finished'])
  })
})

describe('the dates of a course with ways', () => {
  const program: Program = { steps: [
    mail('one'), hold('h', 'a', 48, [mail('yes', hours(1))], [mail('no', hours(3))]), mail('last', { kind: 'next-time', time: '08:00' }),
  ] }
  const facts = { workspaceZone: zone, personZone: null, hours: ALWAYS, dateOf: () => null }
  const said = (ways?: Map<string, string>) =>
    Object.fromEntries(datesFor(program, noon, facts, ways).map(({ stepId, plannedAt }) => [stepId, (plannedAt! - noon) / HOUR]))

  it('show every way; what lies behind goes by the way that is chosen, else the one at the limit', () => {
    expect(said()).toEqual({ one: 0, h: 0, yes: 1, no: 51, last: 68 })
    expect(said(new Map([['h', 'did']]))).toEqual({ one: 0, h: 0, yes: 1, no: 51, last: 20 })
    expect(datesFor(program, noon, facts).find(({ stepId }) => stepId === 'h')!.limitAt).toBe(noon + 2 * DAY)
  })

  it('and reckon ahead in parts of people where it is open which way they take; the parts of all ways are one', () => {
    const state = advance(program, null, {
      kind: 'joined', at: noon, ownAct: true,
    }, { ...facts, holds: () => false, reevaluateAt: () => null, awaited: () => ({ kind: 'open' }) }).enrolment
    const sends = sendsUntil(program, state, Number.POSITIVE_INFINITY, facts, () => [0.25, 0.75])
    expect(sends.map(({ stepId, part }) => `${stepId} ${part}`)).toEqual(['one 1', 'yes 0.25', 'last 1', 'no 0.75'])
    fc.assert(fc.property(anyProgram, (any) => {
      const first = advance(any, null, {
        kind: 'joined', at: noon, ownAct: true,
      }, { ...facts, holds: () => false, reevaluateAt: () => null, awaited: () => ({ kind: 'open' }) }).enrolment
      const parts = new Map<string, number>()
      for (const { stepId, part } of sendsUntil(any, first, noon + 30 * DAY, facts)) parts.set(stepId, (parts.get(stepId) ?? 0) + part)
      // No email goes to more than one person of one.
      expect(Math.max(0, ...parts.values())).toBeLessThanOrEqual(1 + 1e-9)
    }), { numRuns: 300 })
  })
})

describe('publishing while people stand inside', () => {
  const facts: Facts = {
    workspaceZone: zone, personZone: null, hours: ALWAYS, dateOf: () => null, holds: () => false, reevaluateAt: () => null,
    awaited: () => ({ kind: 'open' }),
  }
  const before: Program = {
    steps: [mail('one'), fork('f', [[1, [mail('in', hours(2))]]], [mail('out', hours(2)), mail('out2', hours(2))]), mail('last', hours(5))],
  }
  const standing = (stepId: string, more: Partial<Enrolment> = {}): Enrolment => ({
    status: 'open', joinedAt: noon, previousAt: noon, stillMs: 0, stepId, dueAt: noon + 2 * HOUR, heldSince: null, limitAt: null, hops: 0,
    pausedAt: null, resumedAt: null, doneStepIds: ['one'], ownAct: true, ...more,
  })
  const moved = (from: Program, to: Program, state: Enrolment) =>
    advance(to, state, { kind: 'replan', at: noon + HOUR, from, why: 'published' }, facts).enrolment

  it('who stood in a lost fork stands at its joining point; in a lost step of a way before the next of that way', () => {
    expect(moved(before, { steps: [mail('one'), mail('last', hours(5))] }, standing('in')).stepId).toBe('last')
    expect(moved(
      before, { steps: [mail('one'), fork('f', [[1, [mail('in', hours(2))]]], [mail('out2', hours(2))]), mail('last', hours(5))] },
      standing('out'),
    ).stepId).toBe('out2')
    // A step taken out of its fork into the row keeps its people.
    expect(moved(before, { steps: [mail('one'), mail('in', hours(4)), mail('last', hours(5))] }, standing('in'))).toMatchObject({
      stepId: 'in', dueAt: noon + 4 * HOUR,
    })
  })

  it('who waits in a hold goes on waiting by its new limit, or is over at once where that is past; without the hold they go on behind it', () => {
    const [long, short] = [48, 10].map((most): Program => ({ steps: [hold('h', 'a', most, [], [mail('no')]), mail('last', hours(1))] }))
    const waits = standing('h', { heldSince: noon, limitAt: noon + 48 * HOUR, dueAt: noon + 48 * HOUR })
    // Decided once everything that was done in time is known.
    expect(moved(long!, short!, waits)).toMatchObject({ stepId: 'h', limitAt: noon + 10 * HOUR, dueAt: noon + 10 * HOUR + JUDGING })
    expect(advance(short!, waits, { kind: 'replan', at: noon + 20 * HOUR, from: long!, why: 'published' }, facts).enrolment).toMatchObject({
      stepId: 'no', previousAt: noon + 20 * HOUR, heldSince: null,
    })
    expect(moved(long!, { steps: [mail('last', hours(1))] }, waits)).toMatchObject({ stepId: 'last', heldSince: null })
  })

  it('whatever is edited, nobody gets an email twice and everybody stands somewhere that is there, or is at the end', () => {
    fc.assert(fc.property(anyProgram, anyProgram, anyLife, fc.nat(300), (old, next, life, after) => {
      const { state, told } = play(old, life.filter(({ at }) => at < noon + after * HOUR), noon + after * HOUR)
      if (state.status !== 'open') return
      const at = noon + after * HOUR
      const here = { ...facts, holds: () => false }
      const then = advance(next, state, { kind: 'replan', at, from: old, why: 'published' }, here).enrolment
      if (then.status === 'open') expect(placesOf(next).has(then.stepId!)).toBe(true)
      else expect(then.stepId).toBeNull()
      expect(then.doneStepIds).toEqual(state.doneStepIds)
      const sent = new Set(told.filter(({ what }) => what.startsWith('send ')).map(({ what }) => what.slice(5)))
      const more = then.status === 'open' ? sendsUntil(next, then, at + 20 * DAY, facts).map(({ stepId }) => stepId) : []
      expect(more.filter(id => sent.has(id))).toEqual([])
    }), { numRuns: 600 })
  })
})

describe('a step that is paused', () => {
  it('lets nobody on; lifted, they go on from where they stood, through sending hours', () => {
    const office = daily([1, 2, 3, 4, 5], '08:00', '18:00')
    const facts: Facts = {
      workspaceZone: zone, personZone: null, hours: office, dateOf: () => null, holds: () => false, reevaluateAt: () => null,
      awaited: () => ({ kind: 'open' }),
    }
    const course = (paused: boolean): Program => ({ steps: [mail('one'), { ...mail('two', hours(24)), ...paused && { paused } }] })
    const joined = advance(course(true), null, { kind: 'joined', at: noon, ownAct: true }, facts).enrolment
    const stands = advance(course(true), joined, { kind: 'due', at: noon }, facts).enrolment
    expect([stands.stepId, stands.dueAt]).toEqual(['two', null])
    const lifted = advance(
      course(false), stands, { kind: 'replan', at: instantOf('2026-11-28', '10:00', zone), from: course(true), why: 'published' }, facts,
    ).enrolment
    expect(lifted.dueAt).toBe(instantOf('2026-11-30', '08:00', zone))
  })
})
