/** The dates a course means for one joiner, by the same function that runs the course. */
import type { Instant, ZoneName } from '#core/time/zone'
import { advance } from './advance'
import type { Advanced, Enrolment, Facts } from './journey'
import { planStep, zoneOf } from './standing'
import { allSteps, DID, DID_NOT, OTHERWISE, placesOf, type ForkStep, type HoldStep, type Program, type Step } from './program'

export interface StepDate {
  stepId: string
  /** Null if the step is passed over for this joiner, or not reached by any way. */
  plannedAt: Instant | null
  /** What its *when* meant, before sending hours and before what is past was moved to now. */
  targetAt: Instant | null
  skipped: 'past' | 'no-date' | null
  /** Of a hold: until when it waits at most. */
  limitAt: Instant | null
  /** The zone that decided it. */
  zone: ZoneName
}

/** What a sample joiner is known by: nothing happens to them but what is chosen. */
export type SampleFacts = Pick<Facts, 'workspaceZone' | 'personZone' | 'hours' | 'dateOf'>

/** Nothing is known of them besides. */
export const NOTHING: Pick<Facts, 'holds' | 'reevaluateAt' | 'awaited'> = {
  holds: () => false, reevaluateAt: () => null, awaited: () => ({ kind: 'open' }),
}

/**
 * Dates of every step for someone who joins at `joinedAt` by their own act.
 * `ways` says which way they take at forks and holds; where nothing is said,
 * what is for everybody else, and the limit of a hold. Steps of the ways not
 * taken have the dates they would have by them. Empty emails count as if they
 * were written, paused steps as if they were not.
 */
export function datesFor(
  program: Program, joinedAt: Instant, facts: SampleFacts, ways: ReadonlyMap<string, string> = new Map(),
): StepDate[] {
  const written: Program = { ...program, steps: asWritten(program.steps) }
  const all: Facts = { ...facts, ...NOTHING }
  const dates = new Map<string, Omit<StepDate, 'stepId' | 'zone'>>()
  walk(advance(written, null, { kind: 'joined', at: joinedAt, ownAct: true }, all))
  return allSteps<Step>(program.steps).map(step => ({
    stepId: step.id, zone: zoneOf(step, facts), ...dates.get(step.id) ?? { plannedAt: null, targetAt: null, skipped: null, limitAt: null },
  }))

  /** On from there until the end, or until a step that has its date already. */
  function walk({ enrolment, effects }: Advanced): void {
    for (const effect of effects) if (effect.kind === 'skipped' && !dates.has(effect.step.id)) dates.set(effect.step.id, {
      plannedAt: null, targetAt: null, skipped: effect.why, limitAt: null,
    })
    if (enrolment.status !== 'open' || enrolment.dueAt === null || dates.has(enrolment.stepId!)) return
    const { step } = placesOf(written).get(enrolment.stepId!)!
    const plannedAt = enrolment.dueAt
    const targetAt = planStep(written, step, enrolment, facts).targetAt
    if (step.kind !== 'fork' && step.kind !== 'hold') {
      dates.set(step.id, { plannedAt, targetAt, skipped: null, limitAt: null })
      return walk(advance(written, enrolment, { kind: 'due', at: plannedAt }, all))
    }
    const { limitAt } = step.kind === 'hold'
      ? advance(written, enrolment, { kind: 'due', at: plannedAt }, all).enrolment
      : { limitAt: null }
    dates.set(step.id, { plannedAt, targetAt, skipped: null, limitAt })
    const names = step.kind === 'fork' ? [...step.ways.map(({ id }) => id), OTHERWISE] : [DID, DID_NOT]
    const chosen = ways.get(step.id) ?? names.at(-1)!
    // The chosen way first: what lies behind the meeting of the ways has its dates by it.
    for (const wayId of [chosen, ...names.filter(name => name !== chosen)]) walk(taking(step, enrolment, wayId, plannedAt))
  }

  /** Takes just this way: of a hold at once, where it happened, else at its limit. */
  function taking(step: ForkStep | HoldStep, enrolment: Enrolment, wayId: string, at: Instant): Advanced {
    const due = (facts: Facts) => advance(written, enrolment, { kind: 'due', at }, facts)
    if (step.kind === 'fork') return due({ ...all, holds: who => step.ways.find(way => way.who === who)?.id === wayId })
    if (wayId === DID) return due({ ...all, holds: () => true, awaited: () => ({ kind: 'happened', at }) })
    const held = due(all).enrolment
    return advance(written, held, { kind: 'look', at: held.dueAt! }, all)
  }
}

function asWritten(steps: readonly Step[]): Step[] {
  return steps.map(({ paused: _, ...step }): Step => {
    switch (step.kind) {
      case 'email': return { ...step, messageId: step.messageId ?? 0 }
      case 'hold': return { ...step, did: asWritten(step.did), didNot: asWritten(step.didNot) }
      case 'fork': return {
        ...step, ways: step.ways.map(way => ({ ...way, steps: asWritten(way.steps) })), otherwise: asWritten(step.otherwise),
      }
      default: return step
    }
  })
}
