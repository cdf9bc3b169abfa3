/**
 * One person's journey through one course, as a pure function.
 *
 * The state says before which step someone stands and when that step is due.
 * A happening goes in; the next state and what is to be done come out.
 */
import { both, nextOpen, type WeekHours } from '#core/time/hours'
import type { Instant, ZoneName } from '#core/time/zone'
import type { DateOf, Plan } from '#core/time/when'
import { planOf } from '#core/time/when'
import type { EmailStep, Program, Step } from './program'

export interface Enrolment {
  status: 'open' | 'finished' | 'left'
  joinedAt: Instant
  /** Planned time of the last step done: what the next *when* counts from. */
  previousAt: Instant
  /** How long this journey has stood still in all, in milliseconds: what counts from joining is later by that. */
  stillMs: number
  /** The step this person stands before; null once the course is over for them. */
  stepId: string | null
  /** When that step is due; null while its email is still empty, or once the course is over. */
  dueAt: Instant | null
  /** Steps already sent in this visit: never repeated, whatever is edited. */
  doneStepIds: readonly string[]
  /** True if the person's own act brought them in: then an at-once first email is asked-for mail and waits for no sending hours. */
  ownAct: boolean
}

export interface Facts {
  workspaceZone: ZoneName
  /** The person's own zone where it is known. */
  personZone: ZoneName | null
  /** Sending hours of the workspace. */
  hours: WeekHours
  /** What the person's date fields hold. */
  dateOf: DateOf
}

export type Happening =
  | { kind: 'joined', at: Instant, ownAct: boolean }
  /** The clock reached `dueAt`. */
  | { kind: 'due', at: Instant }
  /** The program was published anew, or a zone changed: unsent steps are planned anew from the same base. */
  | { kind: 'replan', at: Instant, from: Program }
  /** They asked for a pause: nothing is due until it ends. */
  | { kind: 'paused', at: Instant }
  /** The pause that began at `since` is over: what is left of each wait begins to run again. */
  | { kind: 'resumed', at: Instant, since: Instant }
  /** A way out, unsubscribing, leaving the list. */
  | { kind: 'left', at: Instant }

export type Effect =
  | { kind: 'send', step: EmailStep, plannedAt: Instant, firstAtOnce: boolean }
  /** Passed over: its moment was past already, or it goes by a date that is not known. */
  | { kind: 'skipped', step: Step, why: 'past' | 'no-date' }
  | { kind: 'finished', at: Instant }

export interface Advanced {
  enrolment: Enrolment
  effects: Effect[]
}

/** Throws if the happening does not fit the state: a closed enrolment goes nowhere, and only a due step can be due. */
export function advance(program: Program, enrolment: Enrolment | null, happening: Happening, facts: Facts): Advanced {
  if (happening.kind === 'joined') {
    if (enrolment) throw new Error('This enrolment has already begun')
    const begun: Enrolment = { status: 'open', joinedAt: happening.at, previousAt: happening.at, stillMs: 0, stepId: null, dueAt: null, doneStepIds: [], ownAct: happening.ownAct }
    return standBefore(program, begun, 0, facts)
  }
  if (!enrolment || enrolment.status !== 'open') throw new Error(`Nothing can happen to an enrolment that is ${enrolment?.status ?? 'not there'}`)
  switch (happening.kind) {
    case 'due':
      return doStep(program, enrolment, happening.at, facts)
    case 'replan':
      return replan(program, happening.from, enrolment, happening.at, facts)
    case 'paused':
      return { enrolment: { ...enrolment, dueAt: null }, effects: [] }
    case 'resumed':
      return resume(program, enrolment, happening, facts)
    case 'left':
      return { enrolment: { ...enrolment, status: 'left', stepId: null, dueAt: null }, effects: [] }
  }
}

function doStep(program: Program, enrolment: Enrolment, at: Instant, facts: Facts): Advanced {
  const index = program.steps.findIndex(step => step.id === enrolment.stepId)
  const step = program.steps[index]
  if (!step || enrolment.dueAt === null || enrolment.dueAt > at) {
    throw new Error(`Step ${enrolment.stepId} is not due at ${at} (due at ${enrolment.dueAt})`)
  }
  const plannedAt = enrolment.dueAt
  const firstAtOnce = isFirstAtOnce(enrolment, plannedAt)
  const moved: Enrolment = { ...enrolment, previousAt: plannedAt, doneStepIds: [...enrolment.doneStepIds, step.id] }
  const next = standBefore(program, moved, index + 1, facts)
  return { enrolment: next.enrolment, effects: [{ kind: 'send', step, plannedAt, firstAtOnce }, ...next.effects] }
}

/** Nobody is passed over a step because they paused. */
function resume(program: Program, enrolment: Enrolment, { at, since }: { at: Instant, since: Instant }, facts: Facts): Advanced {
  const stoodMs = Math.max(0, at - Math.max(since, enrolment.joinedAt + enrolment.stillMs))
  const moved: Enrolment = { ...enrolment, previousAt: enrolment.previousAt + stoodMs, stillMs: enrolment.stillMs + stoodMs }
  const index = program.steps.findIndex(step => step.id === enrolment.stepId)
  const next = standBefore(program, moved, index < 0 ? program.steps.length : index, facts, enrolment.stepId)
  return notBefore(program, next, at, facts)
}

/** Puts someone before the first step from `index` on that is not to be skipped, or ends the course. */
function standBefore(program: Program, enrolment: Enrolment, index: number, facts: Facts, neverSkipId: string | null = null): Advanced {
  const effects: Effect[] = []
  for (const step of program.steps.slice(index)) {
    if (enrolment.doneStepIds.includes(step.id)) continue
    if (step.messageId === null) return { enrolment: { ...enrolment, stepId: step.id, dueAt: null }, effects }
    const plan = planStep(program, step, enrolment, facts)
    if (!plan.skipped || step.id === neverSkipId) return { enrolment: { ...enrolment, stepId: step.id, dueAt: plan.plannedAt }, effects }
    effects.push({ kind: 'skipped', step, why: plan.skipped })
  }
  effects.push({ kind: 'finished', at: enrolment.previousAt })
  return { enrolment: { ...enrolment, status: 'finished', stepId: null, dueAt: null }, effects }
}

/**
 * People keep their step by its id. Where it is gone they stand before the
 * next one of the old program that survives; what would now be past goes at once.
 */
function replan(program: Program, old: Program, enrolment: Enrolment, at: Instant, facts: Facts): Advanced {
  const oldIndex = old.steps.findIndex(step => step.id === enrolment.stepId)
  const survivor = old.steps.slice(oldIndex).find(step => program.steps.some(kept => kept.id === step.id))
  const index = survivor ? program.steps.findIndex(step => step.id === survivor.id) : program.steps.length
  // Someone who already waits for this very *when* is not skipped because a clock was set to another zone.
  const kept = survivor && isSameWhen(survivor, program.steps[index]!) ? survivor.id : null
  const moved = standBefore(program, enrolment, index, facts, kept)
  // A moment that is past only because of the change means at once, from the change on.
  const wasDue = enrolment.dueAt !== null && enrolment.dueAt <= at
  return wasDue ? moved : notBefore(program, moved, at, facts)
}

/** What would be past by then is due then, once the sending hours are open. */
function notBefore(program: Program, advanced: Advanced, at: Instant, facts: Facts): Advanced {
  const { dueAt, stepId } = advanced.enrolment
  if (dueAt === null || dueAt >= at) return advanced
  const step = program.steps.find(({ id }) => id === stepId)!
  return { ...advanced, enrolment: { ...advanced.enrolment, dueAt: step.ignoresHours ? at : nextOpen(at, hoursOf(program, facts), zoneOf(step, facts)) } }
}

function isSameWhen(before: Step, after: Step): boolean {
  return JSON.stringify([before.when, before.ifPast]) === JSON.stringify([after.when, after.ifPast])
}

/** When someone standing there gets a step, sending hours included. */
export function planStep(program: Program, step: Step, enrolment: Pick<Enrolment, 'joinedAt' | 'previousAt' | 'stillMs' | 'doneStepIds' | 'ownAct'>, facts: Facts): Plan {
  const { joinedAt, previousAt, stillMs } = enrolment
  const zone = zoneOf(step, facts)
  const plan = (hours?: WeekHours) => planOf(step.when, step.ifPast, { joinedAt: joinedAt + stillMs, previousAt }, zone, facts.dateOf, hours)
  const target = plan()
  // What someone has just asked for comes at once.
  if (step.ignoresHours || (enrolment.ownAct && isFirstAtOnce(enrolment, target.plannedAt))) return target
  return plan(hoursOf(program, facts))
}

/** The sending hours of a course: its own, within the workspace's. Where they never open together, which cannot be saved, the workspace's. */
export function hoursOf({ hours }: Pick<Program, 'hours'>, facts: Pick<Facts, 'hours'>): WeekHours {
  if (!hours) return facts.hours
  const narrowed = both(hours, facts.hours)
  return narrowed.includes('1') ? narrowed : facts.hours
}

/** Whether an email planned then would be the first of the journey, at the moment of joining. */
const isFirstAtOnce = ({ doneStepIds, joinedAt }: Pick<Enrolment, 'doneStepIds' | 'joinedAt'>, plannedAt: Instant): boolean => doneStepIds.length === 0 && plannedAt === joinedAt

export function zoneOf(step: Step, facts: Pick<Facts, 'personZone' | 'workspaceZone'>): ZoneName {
  return step.zone === 'subscriber' ? facts.personZone ?? facts.workspaceZone : facts.workspaceZone
}
