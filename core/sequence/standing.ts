/** Where someone stands in a course, and when the step they stand before is due. */
import { both, nextOpen, type WeekHours } from '#core/time/hours'
import { planOf, type Plan } from '#core/time/when'
import type { Instant, ZoneName } from '#core/time/zone'
import type { Advanced, JourneyEffect, Enrolment, Facts } from './journey'
import { placesOf, type Program, type Step } from './program'

/** Stands before no step, and waits for nothing. */
export const NOWHERE = { stepId: null, dueAt: null, heldSince: null, limitAt: null } as const

/** How a step's moment is judged. */
interface Judging {
  /** The step that is not passed over as past: they wait for it already. */
  keepId?: string | null
  /** A moment before this instant has gone by as well: time passed while nobody looked, or a date was changed. */
  goneBy?: Instant | null
}

/**
 * Puts someone before the first step from that one on that is not to be passed over, or ends the course. A step whose date is not known is
 * always passed over.
 */
export function standBefore(
  program: Program, enrolment: Enrolment, stepId: string | null, facts: Facts, { keepId = null, goneBy = null }: Judging = {},
): Advanced {
  const effects: JourneyEffect[] = []
  const places = placesOf(program)
  for (let id = stepId; id !== null;) {
    const { step, nextId } = places.get(id)!
    if (step.kind === 'email' && enrolment.doneStepIds.includes(id)) {
      id = nextId
      continue
    }
    const stands = { ...enrolment, ...NOWHERE, stepId: id }
    if (step.paused || (step.kind === 'email' && step.messageId === null)) return { enrolment: stands, effects }
    const plan = planStep(program, step, enrolment, facts)
    // Who waits for this very moment is not passed over, however late it is looked at.
    const waitsForIt = id === keepId || (id === enrolment.stepId && plan.plannedAt === enrolment.dueAt)
    const hasGoneBy = goneBy !== null && step.ifPast === 'skip' && step.when.kind !== 'at-once' && plan.targetAt !== null
      && plan.targetAt < goneBy
    const skipped = plan.skipped === 'no-date' ? 'no-date' : (plan.skipped !== null || hasGoneBy) && !waitsForIt ? 'past' : null
    if (skipped === null) return { enrolment: { ...stands, dueAt: plan.plannedAt }, effects }
    effects.push({ kind: 'skipped', step, why: skipped })
    id = nextId
  }
  effects.push({ kind: 'finished', at: enrolment.previousAt })
  return { enrolment: { ...enrolment, status: 'finished', ...NOWHERE }, effects }
}

/** What would be past by then is due then, once the sending hours are open. */
export function notBefore(program: Program, advanced: Advanced, at: Instant, facts: Facts): Advanced {
  const { dueAt, stepId, heldSince } = advanced.enrolment
  if (dueAt === null || dueAt >= at || heldSince !== null) return advanced
  const { step } = placesOf(program).get(stepId!)!
  const waits = step.kind === 'email' && !step.ignoresHours
  return {
    ...advanced, enrolment: { ...advanced.enrolment, dueAt: waits ? nextOpen(at, hoursOf(program, facts), zoneOf(step, facts)) : at },
  }
}

type Place = Pick<Enrolment, 'joinedAt' | 'previousAt' | 'stillMs' | 'doneStepIds' | 'ownAct'>

/** When someone standing there gets to a step; sending hours move emails only. */
export function planStep(
  program: Program, step: Step, enrolment: Place, facts: Pick<Facts, 'workspaceZone' | 'personZone' | 'hours' | 'dateOf'>,
): Plan {
  const { joinedAt, previousAt, stillMs } = enrolment
  const zone = zoneOf(step, facts)
  const when = whenIn(program, step)
  const plan = (hours?: WeekHours) => planOf(when, step.ifPast, { joinedAt: joinedAt + stillMs, previousAt }, zone, facts.dateOf, hours)
  const target = plan()
  // What someone has just asked for comes at once.
  if (step.kind !== 'email' || step.ignoresHours || (enrolment.ownAct && isFirstAtOnce(step, enrolment, target.plannedAt))) return target
  return plan(hoursOf(program, facts))
}

/** In a course of dates a step counts from the occurrence that the journey is about: it does not come round by itself. */
export function whenIn({ dates }: Pick<Program, 'dates'>, { when }: Pick<Step, 'when'>): Step['when'] {
  return when.kind === 'date-field' && when.fieldId === dates?.fieldId ? { ...when, everyMonths: 0 } : when
}

/**
 * The sending hours of a course: its own, within the workspace's. Where they never open together, which cannot be saved, the workspace's.
 */
export function hoursOf({ hours }: Pick<Program, 'hours'>, facts: Pick<Facts, 'hours'>): WeekHours {
  if (!hours) return facts.hours
  const narrowed = both(hours, facts.hours)
  return narrowed.includes('1') ? narrowed : facts.hours
}

/**
 * Whether an email planned then is the first of the journey and goes at once with the joining; one whose moment is merely past is not that.
 */
export function isFirstAtOnce(
  { when }: Pick<Step, 'when'>, { doneStepIds, joinedAt }: Pick<Enrolment, 'doneStepIds' | 'joinedAt'>, plannedAt: Instant,
): boolean {
  return when.kind === 'at-once' && doneStepIds.length === 0 && plannedAt === joinedAt
}

export function zoneOf(step: Pick<Step, 'zone'>, facts: Pick<Facts, 'personZone' | 'workspaceZone'>): ZoneName {
  return step.zone === 'subscriber' ? facts.personZone ?? facts.workspaceZone : facts.workspaceZone
}

/** Where someone stands who goes on before that step, or is at the end with null: for reckoning ahead. */
export const standAt = (program: Program, enrolment: Enrolment, stepId: string | null, facts: Facts): Enrolment =>
  standBefore(program, enrolment, stepId, facts).enrolment
