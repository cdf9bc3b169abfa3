/**
 * One person's journey through one course, as a pure function.
 *
 * The state says before which step someone stands and when that step is due,
 * or in which hold they wait and until when. A happening goes in; the next
 * state and what is to be done come out.
 */
import { dequal } from 'dequal'
import { SECOND, type Instant } from '#core/time/zone'
import { UNIT_MS } from '#core/time/when'
import type { Advanced, JourneyEffect, Enrolment, Facts, JourneyEvent, ReplanReason } from './journey'
import { DID, DID_NOT, firstOfWay, OTHERWISE, placesOf, type ForkStep, type HoldStep, type Program, type Step } from './program'
import { isFirstAtOnce, notBefore, NOWHERE, planStep, standBefore } from './standing'

/** So many steps in one instant, and no more. */
export const MOST_HOPS = 100

/**
 * What somebody did counts at its own time, but is known only after a click was judged. A hold is therefore decided so long
 * after its limit, as of its limit: whatever a click brought about in time is known by then.
 */
export const JUDGING = 31 * SECOND

/** Throws if the happening does not fit the state: a closed enrolment goes nowhere, and only a due step can be due. */
export function advance(program: Program, enrolment: Enrolment | null, happening: JourneyEvent, facts: Facts): Advanced {
  if (happening.kind === 'joined') {
    if (enrolment) throw new Error('This enrolment has already begun')
    const { at, ownAct } = happening
    const begun: Enrolment = {
      status: 'open', joinedAt: at, previousAt: at, stillMs: 0, ...NOWHERE, hops: 0, pausedAt: null, resumedAt: null, doneStepIds: [],
      ownAct,
    }
    return standBefore(program, begun, program.steps[0]?.id ?? null, facts)
  }
  if (enrolment?.status === 'finished' && happening.kind === 'goes-on') {
    return continueAt(program, { ...enrolment, status: 'open' }, happening.toId, happening.at, facts)
  }
  if (!enrolment || enrolment.status !== 'open') {
    throw new Error(`Nothing can happen to an enrolment that is ${enrolment?.status ?? 'not there'}`)
  }
  switch (happening.kind) {
    case 'due':
      return doDue(program, enrolment, happening.at, facts)
    case 'look':
      return look(program, enrolment, happening.at, facts)
    case 'replan':
      return replan(program, enrolment, happening, facts)
    case 'paused':
      return enrolment.pausedAt !== null ? nothing(enrolment) : nothing({ ...enrolment, pausedAt: happening.at, dueAt: null })
    case 'resumed':
      return resume(program, enrolment, happening.at, facts)
    case 'put-off':
      return putOff(program, enrolment, happening, facts)
    case 'moved': {
      const moved = { ...enrolment, hops: 0, heldSince: null, limitAt: null }
      // While it stands still its clock does, too: what comes next counts from when it goes on.
      if (enrolment.pausedAt !== null) {
        return nothing({ ...moved, stepId: happening.toId, dueAt: null, previousAt: Math.max(enrolment.previousAt, enrolment.pausedAt) })
      }
      return continueAt(program, { ...moved, previousAt: happening.at }, happening.toId, happening.at, facts)
    }
    case 'goes-on':
      throw new Error('Only an enrolment that is finished can go on')
    case 'left':
      return nothing({ ...enrolment, status: 'left', ...NOWHERE, pausedAt: null })
  }
}

const nothing = (enrolment: Enrolment): Advanced => ({ enrolment, effects: [] })

/** Before just that step, also where it is past. */
function continueAt(program: Program, enrolment: Enrolment, toId: string, at: Instant, facts: Facts): Advanced {
  return notBefore(program, standBefore(program, enrolment, toId, facts, { keepId: toId }), at, facts)
}

/**
 * What counts from that email counts from its new moment, a hold behind it included; where something else was done since, not earlier than
 * that.
 */
function putOff(
  program: Program, enrolment: Enrolment, { stepId, from, to }: { stepId: string, from: Instant, to: Instant }, facts: Facts,
): Advanced {
  const { previousAt, heldSince, limitAt, doneStepIds } = enrolment
  const isLatest = previousAt === from || doneStepIds.at(-1) === stepId
  if (!isLatest || previousAt >= to || enrolment.pausedAt !== null) return nothing(enrolment)
  const moved = { ...enrolment, previousAt: to }
  if (heldSince === null || limitAt === null) return standBefore(program, moved, enrolment.stepId, facts, { keepId: enrolment.stepId })
  const since = Math.max(heldSince, to)
  return nothing({ ...moved, heldSince: since, limitAt: limitAt + since - heldSince, dueAt: limitAt + since - heldSince + JUDGING })
}

function doDue(program: Program, enrolment: Enrolment, at: Instant, facts: Facts): Advanced {
  const place = enrolment.stepId === null ? undefined : placesOf(program).get(enrolment.stepId)
  if (!place || enrolment.dueAt === null || enrolment.dueAt > at) {
    throw new Error(`Step ${enrolment.stepId} is not due at ${at} (due at ${enrolment.dueAt})`)
  }
  const { step } = place
  if (step.kind === 'hold' && enrolment.heldSince !== null) return look(program, enrolment, at, facts)
  const plannedAt = enrolment.dueAt
  const hops = plannedAt === enrolment.previousAt ? enrolment.hops + 1 : 0
  if (hops >= MOST_HOPS) return { enrolment: { ...enrolment, dueAt: null, hops }, effects: [{ kind: 'stopped', step, at: plannedAt }] }
  const moved: Enrolment = { ...enrolment, previousAt: plannedAt, hops }
  switch (step.kind) {
    case 'email': {
      const firstAtOnce = isFirstAtOnce(step, enrolment, plannedAt)
      const sent = { ...moved, doneStepIds: [...moved.doneStepIds, step.id] }
      return after({ kind: 'send', step, plannedAt, firstAtOnce }, standBefore(program, sent, place.nextId, facts))
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
      return { enrolment: { ...moved, status: 'finished', ...NOWHERE }, effects: [{ kind: 'finished', at: plannedAt }] }
    case 'hold': {
      const limitAt = plannedAt + step.atMost.count * UNIT_MS[step.atMost.unit]
      const held = look(program, { ...moved, heldSince: plannedAt, limitAt, dueAt: null }, plannedAt, facts)
      return held.enrolment.heldSince === null ? held : after({ kind: 'holds', step, at: plannedAt }, held)
    }
  }
}

/** When something happened, by the clock of the journey: what happened while it stood still counts from when it went on. */
function journeyTime(enrolment: Enrolment, at: Instant): Instant {
  return Math.max(at, enrolment.heldSince ?? at, enrolment.resumedAt ?? at)
}

interface Looking {
  /** When something that happened at that instant counts, by the clock of the journey. */
  when?: (at: Instant) => Instant
  /** When nothing more is waited for; left out for a while after the limit. */
  decideAt?: Instant
}

/**
 * Whether a hold is over: because of what happened, because it cannot happen any more, or because its time is up. Nothing is decided while
 * the journey stands still.
 */
function look(
  program: Program, enrolment: Enrolment, at: Instant, facts: Facts, { when = at => journeyTime(enrolment, at), ...looking }: Looking = {},
): Advanced {
  const step = enrolment.stepId === null ? undefined : placesOf(program).get(enrolment.stepId)?.step
  const { heldSince, limitAt } = enrolment
  if (step?.kind !== 'hold' || heldSince === null || limitAt === null || enrolment.pausedAt !== null) return nothing(enrolment)
  const { until } = step
  const { decideAt = limitAt + JUDGING } = looking
  if (until.kind === 'condition') {
    // A condition is looked at as it stands; whenever it is found true in time, that is its time.
    if (at <= limitAt && facts.holds(until.who, at)) return take(program, enrolment, step, DID, when(at), facts)
    if (at >= decideAt) return take(program, enrolment, step, DID_NOT, limitAt, facts)
    const reevaluateAt = facts.reevaluateAt(until.who, at)
    return nothing({ ...enrolment, dueAt: reevaluateAt === null || reevaluateAt > limitAt ? decideAt : reevaluateAt })
  }
  const found = facts.awaited(until, heldSince)
  // Exactly at the limit the event wins; what had happened before counts from entering.
  if (found.kind === 'happened' && found.at <= limitAt) return take(program, enrolment, step, DID, when(found.at), facts)
  if (found.kind === 'cannot') return take(program, enrolment, step, DID_NOT, Math.max(heldSince, Math.min(at, limitAt)), facts)
  if (at >= decideAt) return take(program, enrolment, step, DID_NOT, limitAt, facts)
  return nothing({ ...enrolment, dueAt: decideAt })
}

/** On by one way of a fork or a hold, at that time. */
function take(program: Program, enrolment: Enrolment, step: ForkStep | HoldStep, wayId: string, at: Instant, facts: Facts): Advanced {
  const moved: Enrolment = { ...enrolment, previousAt: Math.max(enrolment.previousAt, at), heldSince: null, limitAt: null }
  return after({ kind: 'way', step, wayId, at }, standBefore(program, moved, firstOfWay(program, step.id, wayId), facts))
}

const after = (effect: JourneyEffect, { enrolment, effects }: Advanced): Advanced => ({ enrolment, effects: [effect, ...effects] })

/** Each wait has what was left of it. A step that says *skip if past* is skipped where its moment came while the journey stood still. */
function resume(program: Program, enrolment: Enrolment, at: Instant, facts: Facts): Advanced {
  const { pausedAt, heldSince, limitAt, stepId } = enrolment
  if (pausedAt === null) return nothing(enrolment)
  const stoodMs = Math.max(0, at - pausedAt)
  const moved: Enrolment = {
    ...enrolment, pausedAt: null, resumedAt: at, previousAt: enrolment.previousAt + stoodMs, stillMs: enrolment.stillMs + stoodMs,
  }
  if (heldSince !== null && limitAt !== null) {
    // What had happened before, and is known only now, is as long ago on the journey's own clock; what happened meanwhile counts from now.
    return look(program, { ...moved, limitAt: limitAt + stoodMs }, at, facts, {
      when: happenedAt => happenedAt < pausedAt ? Math.max(heldSince, happenedAt) + stoodMs : at,
    })
  }
  const step = stepId === null ? undefined : placesOf(program).get(stepId)?.step
  const before = step && planStep(program, step, enrolment, facts).targetAt
  const wasDue = before !== undefined && before !== null && before <= pausedAt
  return notBefore(program, standBefore(program, moved, stepId, facts, { keepId: wasDue ? stepId : null, goneBy: at }), at, facts)
}

/**
 * People keep their step by its id. Where it is gone they stand before the
 * next one of the old program that survives, in a lost fork at its joining
 * point; what would now be past goes at once, unless it says *skip if past*.
 * Who waits in a hold that survives goes on waiting, by its new limit.
 */
function replan(
  program: Program, enrolment: Enrolment, { from: old, at, why }: { from: Program, at: Instant, why: ReplanReason }, facts: Facts,
): Advanced {
  const [before, now] = [placesOf(old), placesOf(program)]
  let id = enrolment.stepId
  while (id !== null && !now.has(id)) id = before.get(id)?.nextId ?? null
  const [was, is] = [
    enrolment.stepId === null ? undefined : before.get(enrolment.stepId)?.step, id === null ? undefined : now.get(id)!.step,
  ]
  if (is?.kind === 'hold' && enrolment.heldSince !== null && id === enrolment.stepId) {
    const spanOf = (step: Step | undefined) => step?.kind === 'hold' ? step.atMost.count * UNIT_MS[step.atMost.unit] : 0
    const limitAt = enrolment.limitAt! + spanOf(is) - spanOf(was)
    // A limit that is past only because of the change means now.
    const kept = Math.max(limitAt, Math.min(enrolment.pausedAt ?? at, enrolment.limitAt!))
    return look(program, { ...enrolment, limitAt: kept }, at, facts, limitAt <= at && enrolment.limitAt! > at ? { decideAt: at } : {})
  }
  // Planned anew when it goes on.
  if (enrolment.pausedAt !== null && id !== null) return nothing({ ...enrolment, ...NOWHERE, stepId: id })
  const isUnchanged = was && is && was.id === is.id && dequal([was.when, was.ifPast], [is.when, is.ifPast])
  const keepId = isUnchanged && why !== 'date' ? id : null
  const moved = standBefore(program, enrolment, id, facts, { keepId, goneBy: why === 'zone' || why === 'hours' ? null : at })
  // A moment that is past only because of the change means at once, from the change on.
  const wasDue = enrolment.dueAt !== null && enrolment.dueAt <= at
  return wasDue ? moved : notBefore(program, moved, at, facts)
}
