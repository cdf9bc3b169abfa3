/**
 * One person's journey through one course, as a pure function.
 *
 * The state says before which step someone stands and when that step is due,
 * or in which hold they wait and until when. A happening goes in; the next
 * state and what is to be done come out.
 */
import type { Condition } from '#core/audience/condition'
import type { Action } from '#core/rules/rule'
import { both, nextOpen, type WeekHours } from '#core/time/hours'
import { SECOND, type Instant, type ZoneName } from '#core/time/zone'
import type { DateOf, Plan } from '#core/time/when'
import { planOf, UNIT_MS } from '#core/time/when'
import { DID, DID_NOT, firstOfWay, OTHERWISE, placesOf, type DoStep, type EmailStep, type ForkStep, type HoldStep, type Program, type Step, type Until } from './program'

export interface Enrolment {
  status: 'open' | 'finished' | 'left'
  joinedAt: Instant
  /** Planned time of the last step done: what the next *when* counts from. */
  previousAt: Instant
  /** How long this journey has stood still in all, in milliseconds: what counts from joining is later by that. */
  stillMs: number
  /** The step this person stands before, or the hold they wait in; null once the course is over for them. */
  stepId: string | null
  /** When there is something to do: the step, or looking whether a hold is over. Null while its email is still empty, and once the course is over. */
  dueAt: Instant | null
  /** Since when they wait in the hold; null before any step. */
  heldSince: Instant | null
  /** Until when they wait at most. */
  limitAt: Instant | null
  /** How many steps were done at one instant so far: a jump that never passes any time is stopped by it. */
  hops: number
  /** Emails already sent in this visit: never repeated, whatever is edited. */
  doneStepIds: readonly string[]
  /** True if the person's own act brought them in: then an at-once first email is asked-for mail and waits for no sending hours. */
  ownAct: boolean
}

/** What is known of what a hold waits for: when it happened, by event time; that its email was not sent, so that it cannot happen; or nothing yet. */
export type Awaited = { kind: 'happened', at: Instant } | { kind: 'cannot' } | { kind: 'open' }

export interface Facts {
  workspaceZone: ZoneName
  /** The person's own zone where it is known. */
  personZone: ZoneName | null
  /** Sending hours of the workspace. */
  hours: WeekHours
  /** What the person's date fields hold. */
  dateOf: DateOf
  /** Whether a condition holds for the person now, and when it may next turn by time alone. */
  holds(condition: Condition, at: Instant): boolean
  turnsAt(condition: Condition, at: Instant): Instant | null
  /** What is known of the thing a hold waits for. It looks back to the sending of the email it names, else to `since`. */
  awaited(until: Extract<Until, { kind: 'event' }>, since: Instant): Awaited
}

export type Happening =
  | { kind: 'joined', at: Instant, ownAct: boolean }
  /** The clock reached `dueAt`. */
  | { kind: 'due', at: Instant }
  /** Something happened to the person by which a hold may be over. */
  | { kind: 'look', at: Instant }
  /** The program was published anew, or a zone, date or sending hours changed: unsent steps are planned anew from the same base. */
  | { kind: 'replan', at: Instant, from: Program }
  /** They asked for a pause: nothing is due until it ends. */
  | { kind: 'paused', at: Instant }
  /** The pause that began at `since` is over: what is left of each wait begins to run again. */
  | { kind: 'resumed', at: Instant, since: Instant }
  /** Too many emails: the email that was planned for `from` goes at `to`, and what follows counts from there. */
  | { kind: 'put-off', at: Instant, from: Instant, to: Instant }
  /** They go on before this step, by a reaction or by the owner's hand: what comes next counts from now. */
  | { kind: 'moved', at: Instant, toId: string }
  /** The course was over for them, and has a new end: they stand before this step of it. */
  | { kind: 'goes-on', at: Instant, toId: string }
  /** A way out, unsubscribing, leaving the list. */
  | { kind: 'left', at: Instant }

export type Effect =
  | { kind: 'send', step: EmailStep, plannedAt: Instant, firstAtOnce: boolean }
  /** Passed over: its moment was past already, or it goes by a date that is not known. */
  | { kind: 'skipped', step: Step, why: 'past' | 'no-date' }
  | { kind: 'do', step: DoStep, then: readonly Action[], at: Instant }
  /** Waits from `at` on in a hold. */
  | { kind: 'holds', step: HoldStep, at: Instant }
  /** Took this way of a fork or a hold. */
  | { kind: 'way', step: ForkStep | HoldStep, wayId: string, at: Instant }
  | { kind: 'finished', at: Instant }
  /** Stopped: so many steps in one instant are a jump without end. */
  | { kind: 'stopped', step: Step, at: Instant }

export interface Advanced {
  enrolment: Enrolment
  effects: Effect[]
}

/** So many steps in one instant, and no more. */
export const MOST_HOPS = 100

/** A click is judged for so long before it counts, at its own time: until then nobody is sent the way of who did not. */
const JUDGING = 31 * SECOND

const OVER = { stepId: null, dueAt: null, heldSince: null, limitAt: null } as const

/** Throws if the happening does not fit the state: a closed enrolment goes nowhere, and only a due step can be due. */
export function advance(program: Program, enrolment: Enrolment | null, happening: Happening, facts: Facts): Advanced {
  if (happening.kind === 'joined') {
    if (enrolment) throw new Error('This enrolment has already begun')
    const { at, ownAct } = happening
    const begun: Enrolment = { status: 'open', joinedAt: at, previousAt: at, stillMs: 0, ...OVER, hops: 0, doneStepIds: [], ownAct }
    return standBefore(program, begun, program.steps[0]?.id ?? null, facts)
  }
  if (enrolment?.status === 'finished' && happening.kind === 'goes-on') {
    return notBefore(program, standBefore(program, { ...enrolment, status: 'open' }, happening.toId, facts, happening.toId), happening.at, facts)
  }
  if (!enrolment || enrolment.status !== 'open') throw new Error(`Nothing can happen to an enrolment that is ${enrolment?.status ?? 'not there'}`)
  switch (happening.kind) {
    case 'due':
      return doDue(program, enrolment, happening.at, facts)
    case 'look':
      return look(program, enrolment, happening.at, facts)
    case 'replan':
      return replan(program, happening.from, enrolment, happening.at, facts)
    case 'paused':
      return { enrolment: { ...enrolment, dueAt: null }, effects: [] }
    case 'resumed':
      return resume(program, enrolment, happening, facts)
    case 'put-off':
      return putOff(program, enrolment, happening, facts)
    case 'moved':
      return notBefore(program, standBefore(program, { ...enrolment, previousAt: happening.at, hops: 0 }, happening.toId, facts, happening.toId), happening.at, facts)
    case 'goes-on':
      throw new Error('Only an enrolment that is finished can go on')
    case 'left':
      return { enrolment: { ...enrolment, status: 'left', ...OVER }, effects: [] }
  }
}

/** Only where nothing has been done since that email: what counts from it counts from its new moment. Who waits in a hold goes on waiting as they did. */
function putOff(program: Program, enrolment: Enrolment, { from, to }: { from: Instant, to: Instant }, facts: Facts): Advanced {
  if (enrolment.previousAt !== from || enrolment.heldSince !== null) return { enrolment, effects: [] }
  return standBefore(program, { ...enrolment, previousAt: to }, enrolment.stepId, facts, enrolment.stepId)
}

function doDue(program: Program, enrolment: Enrolment, at: Instant, facts: Facts): Advanced {
  const place = enrolment.stepId === null ? undefined : placesOf(program).get(enrolment.stepId)
  if (!place || enrolment.dueAt === null || enrolment.dueAt > at) throw new Error(`Step ${enrolment.stepId} is not due at ${at} (due at ${enrolment.dueAt})`)
  const { step } = place
  if (step.kind === 'hold' && enrolment.heldSince !== null) return look(program, enrolment, at, facts)
  const plannedAt = enrolment.dueAt
  const hops = plannedAt === enrolment.previousAt ? enrolment.hops + 1 : 0
  if (hops >= MOST_HOPS) return { enrolment: { ...enrolment, dueAt: null, hops }, effects: [{ kind: 'stopped', step, at: plannedAt }] }
  const moved: Enrolment = { ...enrolment, previousAt: plannedAt, hops }
  switch (step.kind) {
    case 'email': {
      const firstAtOnce = isFirstAtOnce(enrolment, plannedAt)
      return after({ kind: 'send', step, plannedAt, firstAtOnce }, standBefore(program, { ...moved, doneStepIds: [...moved.doneStepIds, step.id] }, place.nextId, facts))
    }
    case 'do':
      return after({ kind: 'do', step, then: step.then, at: plannedAt }, standBefore(program, moved, place.nextId, facts))
    case 'fork': {
      const wayId = step.ways.find(({ who }) => facts.holds(who, plannedAt))?.id ?? OTHERWISE
      return take(program, moved, step, wayId, plannedAt, facts)
    }
    case 'jump':
      return standBefore(program, moved, placesOf(program).has(step.toId) ? step.toId : place.nextId, facts)
    case 'end':
      return { enrolment: { ...moved, status: 'finished', ...OVER }, effects: [{ kind: 'finished', at: plannedAt }] }
    case 'hold': {
      const limitAt = plannedAt + step.atMost.count * UNIT_MS[step.atMost.unit]
      const held = look(program, { ...moved, heldSince: plannedAt, limitAt, dueAt: null }, plannedAt, facts)
      return held.enrolment.heldSince === null ? held : after({ kind: 'holds', step, at: plannedAt }, held)
    }
  }
}

/** Whether a hold is over: because of what happened, because it cannot happen any more, or because its time is up. */
function look(program: Program, enrolment: Enrolment, at: Instant, facts: Facts): Advanced {
  const step = enrolment.stepId === null ? undefined : placesOf(program).get(enrolment.stepId)?.step
  const { heldSince, limitAt } = enrolment
  if (step?.kind !== 'hold' || heldSince === null || limitAt === null) return { enrolment, effects: [] }
  const { until } = step
  if (until.kind === 'condition') {
    // A condition is looked at as it stands; whenever it is found true in time, that is its time.
    if (at <= limitAt && facts.holds(until.who, at)) return take(program, enrolment, step, DID, Math.max(heldSince, at), facts)
    if (at >= limitAt) return take(program, enrolment, step, DID_NOT, limitAt, facts)
    const turnsAt = facts.turnsAt(until.who, at)
    return { enrolment: { ...enrolment, dueAt: turnsAt === null ? limitAt : Math.min(limitAt, turnsAt) }, effects: [] }
  }
  const found = facts.awaited(until, heldSince)
  // Exactly at the limit the event wins; what had happened before counts from entering.
  if (found.kind === 'happened' && found.at <= limitAt) return take(program, enrolment, step, DID, Math.max(heldSince, found.at), facts)
  if (found.kind === 'cannot') return take(program, enrolment, step, DID_NOT, Math.max(heldSince, Math.min(at, limitAt)), facts)
  const lookAt = limitAt + (until.when.kind === 'clicked' || until.when.kind === 'opened' ? JUDGING : 0)
  if (at >= lookAt) return take(program, enrolment, step, DID_NOT, limitAt, facts)
  return { enrolment: { ...enrolment, dueAt: lookAt }, effects: [] }
}

/** On by one way of a fork or a hold, at that time. */
function take(program: Program, enrolment: Enrolment, step: ForkStep | HoldStep, wayId: string, at: Instant, facts: Facts): Advanced {
  const moved: Enrolment = { ...enrolment, previousAt: Math.max(enrolment.previousAt, at), heldSince: null, limitAt: null }
  return after({ kind: 'way', step, wayId, at }, standBefore(program, moved, firstOfWay(program, step.id, wayId), facts))
}

const after = (effect: Effect, { enrolment, effects }: Advanced): Advanced => ({ enrolment, effects: [effect, ...effects] })

/** Nobody is passed over a step because they paused. */
function resume(program: Program, enrolment: Enrolment, { at, since }: { at: Instant, since: Instant }, facts: Facts): Advanced {
  const stoodMs = Math.max(0, at - Math.max(since, enrolment.joinedAt + enrolment.stillMs))
  const moved: Enrolment = { ...enrolment, previousAt: enrolment.previousAt + stoodMs, stillMs: enrolment.stillMs + stoodMs }
  if (enrolment.heldSince !== null && enrolment.limitAt !== null) {
    // What is left of waiting begins to run again; what happened meanwhile counts.
    return look(program, { ...moved, limitAt: enrolment.limitAt + Math.max(0, at - Math.max(since, enrolment.heldSince)) }, at, facts)
  }
  return notBefore(program, standBefore(program, moved, enrolment.stepId, facts, enrolment.stepId), at, facts)
}

/** Puts someone before the first step from that one on that is not to be passed over, or ends the course. */
function standBefore(program: Program, enrolment: Enrolment, stepId: string | null, facts: Facts, neverSkipId: string | null = null): Advanced {
  const effects: Effect[] = []
  const places = placesOf(program)
  for (let id = stepId; id !== null;) {
    const { step, nextId } = places.get(id)!
    if (step.kind === 'email' && enrolment.doneStepIds.includes(id)) {
      id = nextId
      continue
    }
    const stands = { ...enrolment, ...OVER, stepId: id }
    if (step.paused || (step.kind === 'email' && step.messageId === null)) return { enrolment: stands, effects }
    const plan = planStep(program, step, enrolment, facts)
    if (!plan.skipped || id === neverSkipId) return { enrolment: { ...stands, dueAt: plan.plannedAt }, effects }
    effects.push({ kind: 'skipped', step, why: plan.skipped })
    id = nextId
  }
  effects.push({ kind: 'finished', at: enrolment.previousAt })
  return { enrolment: { ...enrolment, status: 'finished', ...OVER }, effects }
}

/**
 * People keep their step by its id. Where it is gone they stand before the
 * next one of the old program that survives, in a lost fork at its joining
 * point; what would now be past goes at once. Who waits in a hold that
 * survives goes on waiting, by its new limit.
 */
function replan(program: Program, old: Program, enrolment: Enrolment, at: Instant, facts: Facts): Advanced {
  const [before, now] = [placesOf(old), placesOf(program)]
  let id = enrolment.stepId
  while (id !== null && !now.has(id)) id = before.get(id)?.nextId ?? null
  const [was, is] = [enrolment.stepId === null ? undefined : before.get(enrolment.stepId)?.step, id === null ? undefined : now.get(id)!.step]
  if (is?.kind === 'hold' && enrolment.heldSince !== null && id === enrolment.stepId) {
    const spanOf = (step: Step | undefined) => step?.kind === 'hold' ? step.atMost.count * UNIT_MS[step.atMost.unit] : 0
    const limitAt = enrolment.limitAt! + spanOf(is) - spanOf(was)
    // A limit that is past only because of the change means now.
    return look(program, { ...enrolment, limitAt: Math.max(limitAt, Math.min(at, enrolment.limitAt!)) }, at, facts)
  }
  // Someone who already waits for this very *when* is not skipped because a clock was set to another zone.
  const kept = was && is && was.id === is.id && JSON.stringify([was.when, was.ifPast]) === JSON.stringify([is.when, is.ifPast]) ? id : null
  const moved = standBefore(program, enrolment, id, facts, kept)
  // A moment that is past only because of the change means at once, from the change on.
  const wasDue = enrolment.dueAt !== null && enrolment.dueAt <= at
  return wasDue ? moved : notBefore(program, moved, at, facts)
}

/** What would be past by then is due then, once the sending hours are open. */
function notBefore(program: Program, advanced: Advanced, at: Instant, facts: Facts): Advanced {
  const { dueAt, stepId, heldSince } = advanced.enrolment
  if (dueAt === null || dueAt >= at || heldSince !== null) return advanced
  const { step } = placesOf(program).get(stepId!)!
  return { ...advanced, enrolment: { ...advanced.enrolment, dueAt: step.kind !== 'email' || step.ignoresHours ? at : nextOpen(at, hoursOf(program, facts), zoneOf(step, facts)) } }
}

/** When someone standing there gets to a step; sending hours move emails only. */
export function planStep(program: Program, step: Step, enrolment: Pick<Enrolment, 'joinedAt' | 'previousAt' | 'stillMs' | 'doneStepIds' | 'ownAct'>, facts: Pick<Facts, 'workspaceZone' | 'personZone' | 'hours' | 'dateOf'>): Plan {
  const { joinedAt, previousAt, stillMs } = enrolment
  const zone = zoneOf(step, facts)
  const plan = (hours?: WeekHours) => planOf(step.when, step.ifPast, { joinedAt: joinedAt + stillMs, previousAt }, zone, facts.dateOf, hours)
  const target = plan()
  // What someone has just asked for comes at once.
  if (step.kind !== 'email' || step.ignoresHours || (enrolment.ownAct && isFirstAtOnce(enrolment, target.plannedAt))) return target
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

export function zoneOf(step: Pick<Step, 'zone'>, facts: Pick<Facts, 'personZone' | 'workspaceZone'>): ZoneName {
  return step.zone === 'subscriber' ? facts.personZone ?? facts.workspaceZone : facts.workspaceZone
}

/** Where someone stands who goes on before that step, or is at the end with null: for reckoning ahead. */
export const standAt = (program: Program, enrolment: Enrolment, stepId: string | null, facts: Facts): Enrolment => standBefore(program, enrolment, stepId, facts).enrolment
