/** The dates a course means for one joiner, by the same function that runs the course. */
import type { Instant, ZoneName } from '#core/time/zone'
import type { Enrolment, Facts } from './advance'
import { advance, zoneOf } from './advance'
import type { Program } from './program'

export interface StepDate {
  stepId: string
  /** Null if the step is skipped for this joiner. */
  plannedAt: Instant | null
  /** The zone that decided it. */
  zone: ZoneName
}

/** Dates of every step for someone who joins at `joinedAt`. Empty emails count as if they were written. */
export function datesFor(program: Program, joinedAt: Instant, facts: Facts): StepDate[] {
  const written: Program = { steps: program.steps.map(step => ({ ...step, messageId: step.messageId ?? 0 })) }
  const first = advance(written, null, { kind: 'joined', at: joinedAt }, facts)
  const sends = new Map(sendsUntil(written, first.enrolment, Number.POSITIVE_INFINITY, facts).map(send => [send.stepId, send.plannedAt]))
  return program.steps.map(step => ({ stepId: step.id, plannedAt: sends.get(step.id) ?? null, zone: zoneOf(step, facts) }))
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
