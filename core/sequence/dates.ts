/** The dates a course means for one joiner, by the same function that runs the course. */
import type { Instant, ZoneName } from '#core/time/zone'
import type { Enrolment, Facts } from './advance'
import { advance, planStep, zoneOf } from './advance'
import type { Program } from './program'

export interface StepDate {
  stepId: string
  /** Null if the step is passed over for this joiner. */
  plannedAt: Instant | null
  /** What its *when* meant, before sending hours and before what is past was moved to now. */
  targetAt: Instant | null
  skipped: 'past' | 'no-date' | null
  /** The zone that decided it. */
  zone: ZoneName
}

/** Dates of every step for someone who joins at `joinedAt` by their own act. Empty emails count as if they were written. */
export function datesFor(program: Program, joinedAt: Instant, facts: Facts): StepDate[] {
  const written: Program = { ...program, steps: program.steps.map(step => ({ ...step, messageId: step.messageId ?? 0 })) }
  const dates = new Map<string, Pick<StepDate, 'plannedAt' | 'targetAt' | 'skipped'>>()
  let moved = advance(written, null, { kind: 'joined', at: joinedAt, ownAct: true }, facts)
  for (;;) {
    for (const effect of moved.effects) if (effect.kind === 'skipped') dates.set(effect.step.id, { plannedAt: null, targetAt: null, skipped: effect.why })
    const { enrolment } = moved
    if (enrolment.status !== 'open' || enrolment.dueAt === null) break
    const step = written.steps.find(({ id }) => id === enrolment.stepId)!
    dates.set(step.id, { plannedAt: enrolment.dueAt, targetAt: planStep(written, step, enrolment, facts).targetAt, skipped: null })
    moved = advance(written, enrolment, { kind: 'due', at: enrolment.dueAt }, facts)
  }
  return program.steps.map(step => ({ stepId: step.id, zone: zoneOf(step, facts), ...dates.get(step.id) ?? { plannedAt: null, targetAt: null, skipped: null } }))
}

/** What an open enrolment will send up to and including `until`, if nothing else happens. */
export function sendsUntil(program: Program, enrolment: Enrolment, until: Instant, facts: Facts): { stepId: string, plannedAt: Instant }[] {
  const sends: { stepId: string, plannedAt: Instant }[] = []
  let state = enrolment
  while (state.status === 'open' && state.dueAt !== null && state.dueAt <= until) {
    const step = advance(program, state, { kind: 'due', at: state.dueAt }, facts)
    for (const effect of step.effects) {
      if (effect.kind === 'send') sends.push({ stepId: effect.step.id, plannedAt: effect.plannedAt })
    }
    state = step.enrolment
  }
  return sends
}
