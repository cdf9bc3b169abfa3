/** What will be sent to people who stand in a course, by the same function that runs it; for many of them at once. */
import { ALWAYS } from '#core/time/hours'
import { UNIT_MS, type Timing } from '#core/time/when'
import { DAY, MINUTE, minutesOf, type Instant } from '#core/time/zone'
import { advance } from './advance'
import type { Enrolment, Facts } from './journey'
import { standAt } from './standing'
import { NOTHING, type SampleFacts } from './dates'
import { allSteps, DID, DID_NOT, firstOfWay, OTHERWISE, placesOf, type Program, type Step } from './program'

/** The part of those who took each way of a fork or hold so far, by the id of the step; ways nobody took yet count alike. */
export type Shares = (stepId: string, wayIds: readonly string[]) => number[]

export const EQUAL_SHARES: Shares = (_, wayIds) => wayIds.map(() => 1 / wayIds.length)

/** Half-hours of sending begin at a quarter of an hour in some zones. */
export const QUARTER = 15 * MINUTE

/** Less than this part of a person is not followed any further. */
const LEAST_PART = 1 / 200

/** Where somebody stands who comes in at that moment, by no act of their own. */
export const joining = (program: Program, at: Instant, facts: SampleFacts): Enrolment =>
  advance(program, null, { kind: 'joined', at, ownAct: false }, { ...facts, ...NOTHING }).enrolment

/** `part`, 0 to 1: how much of a person is expected there. */
export interface Send { stepId: string, plannedAt: Instant, part: number }

/**
 * What an open enrolment will send up to and including `until`, if nothing
 * else happens. At forks and holds it splits by the shares; a hold is expected
 * to last until its limit. Where ways meet again and come to the same moment,
 * it is whole again. Without them every part is 1.
 */
export function sendsUntil(
  program: Program, enrolment: Enrolment, until: Instant, facts: SampleFacts, shares: Shares = EQUAL_SHARES,
): Send[] {
  const sends: Send[] = []
  const all: Facts = { ...facts, ...NOTHING }
  let split = false
  follow(enrolment, 1)
  return split ? gathered(sends) : sends

  function follow(from: Enrolment, part: number): void {
    let state = from
    while (state.status === 'open' && state.dueAt !== null && state.dueAt <= until && part >= LEAST_PART) {
      const { step } = placesOf(program).get(state.stepId!)!
      if (step.kind === 'fork' || step.kind === 'hold') {
        split = true
        const names = step.kind === 'fork' ? [...step.ways.map(({ id }) => id), OTHERWISE] : [DID, DID_NOT]
        const at = step.kind === 'hold' ? limitOf(state) : state.dueAt
        const each = shares(step.id, names)
        for (const [n, wayId] of names.entries()) {
          follow(behind(step.id, wayId, { ...state, previousAt: at, heldSince: null, limitAt: null }), part * each[n]!)
        }
        return
      }
      const moved = advance(program, state, { kind: 'due', at: state.dueAt }, all)
      for (const effect of moved.effects) {
        if (effect.kind === 'send') sends.push({ stepId: effect.step.id, plannedAt: effect.plannedAt, part })
      }
      state = moved.enrolment
    }
  }

  /** Until when somebody is expected to stand in a hold that they are in, or are about to come to. */
  function limitOf(state: Enrolment): Instant {
    return state.limitAt ?? advance(program, state, { kind: 'due', at: state.dueAt! }, all).enrolment.limitAt ?? state.dueAt!
  }

  /** Where they stand who have taken that way. */
  function behind(stepId: string, wayId: string, state: Enrolment): Enrolment {
    return standAt(program, state, firstOfWay(program, stepId, wayId), all)
  }
}

/** The parts of one email at one moment in one; a rest of reckoning is not left over from a whole. */
function gathered(sends: readonly Send[]): Send[] {
  const known = new Map<string, Send>()
  for (const send of sends) {
    const key = `${send.stepId} ${send.plannedAt}`
    const same = known.get(key)
    if (!same) known.set(key, { ...send })
    else same.part = same.part + send.part > 1 - 1e-9 ? 1 : same.part + send.part
  }
  return [...known.values()]
}

/** What the dates of a program depend on, of those who stand in it. */
export interface Depends {
  /** On when they joined. */
  joining: boolean
  /** On their own zone. */
  zone: boolean
  /** On a calendar, a date or an hour; else only on how much time passes. */
  calendar: boolean
  /**
   * The longest stretch, in milliseconds, within which it does not matter at which instant somebody stands: reckoned from
   * its beginning, everything comes in the stretch it would come in. A minute by nature, a quarter of an hour where all
   * that is said are whole ones of it, as sending hours and the zones of today are; none where a moment just past is
   * passed over, or a date comes round.
   */
  bucket: number
}

const depends = new WeakMap<Program, Depends>()

export function dependsOf(program: Program): Depends {
  let known = depends.get(program)
  if (!known) depends.set(program, known = forecastDepends(allSteps<Step>(program.steps)))
  return known
}

function forecastDepends(steps: readonly Step[]): Depends {
  return {
    joining: steps.some(({ when }) => 'from' in when && when.from === 'joining'),
    zone: steps.some(({ zone }) => zone === 'subscriber'),
    calendar: steps.some(({ when }) => when.kind !== 'at-once' && when.kind !== 'elapsed'),
    bucket: steps.some(({ when, ifPast }) => when.kind === 'date-field' || (ifPast === 'skip' && canBePast(when)))
      ? 1
      : steps.every(isInQuarters) ? QUARTER : MINUTE,
  }
}

/** Whether it can lie before the step before it. */
const canBePast = (when: Timing): boolean =>
  when.kind === 'date' || when.kind === 'calendar-day' || when.kind === 'months' || (when.kind === 'elapsed' && when.from === 'joining')

function isInQuarters(step: Step): boolean {
  const { when } = step
  const spans = [...when.kind === 'elapsed' ? [when] : [], ...step.kind === 'hold' ? [step.atMost] : []]
  return spans.every(({ count, unit }) => count * UNIT_MS[unit] % QUARTER === 0)
    && !('time' in when && minutesOf(when.time) * MINUTE % QUARTER !== 0)
}

/** People who stand alike in a course but for the moment when their step is due: all that matters of them for what comes. */
export interface Cohort {
  stepId: string
  doneStepIds: readonly string[]
  /** Whether they have just come in by their own act, and their step is due at once. */
  justAsked: boolean
  /** Of who waits in a hold: how long after its next look it ends at the latest, in milliseconds. */
  limitAfter: number | null
  /** How long before they joined, standing still left out, in milliseconds; null where it does not matter. */
  joinedBefore: number | null
}

/** An email as long after the step that somebody stands before, in milliseconds. */
export interface ForecastSend { stepId: string, after: number, part: number }

/** Reckons what people who stand alike will be sent until `until`, by when their step is due; as seldom as can be. */
export function forecaster(
  until: Instant, program: Program, cohort: Cohort, facts: SampleFacts, shares: Shares,
): (dueAt: Instant) => readonly ForecastSend[] {
  // Where only passing time matters, the same comes to all of them, whenever that is.
  const shifts = !dependsOf(program).calendar && facts.hours === ALWAYS && !program.hours
  const ahead: Cohort = { ...cohort, doneStepIds: cohort.doneStepIds.filter(stillAhead(program, cohort.stepId)) }
  const known = new Map<Instant | 'whenever', { span: number, sendsFrom: readonly ForecastSend[] }>()
  return (dueAt) => {
    const key = shifts ? 'whenever' : dueAt
    const span = until - dueAt
    let forecasted = known.get(key)
    if (!forecasted || forecasted.span < span) {
      // Somewhat farther, so that who stands there a little earlier need not be reckoned anew.
      const farther = shifts ? span + DAY : span
      const sendsFrom = sendsUntil(
        program, standing(ahead, dueAt), dueAt + farther, facts, shares,
      ).map(({ stepId, plannedAt, part }) => ({ stepId, after: plannedAt - dueAt, part }))
      known.set(key, forecasted = { span: farther, sendsFrom })
    }
    return forecasted.sendsFrom
  }
}

/** Nothing was done at that instant yet: who goes round without end gets no email by it either way. */
const standing = ({ stepId, doneStepIds, justAsked, limitAfter, joinedBefore }: Cohort, dueAt: Instant): Enrolment => ({
  status: 'open', stepId, dueAt, joinedAt: dueAt - (joinedBefore ?? 0), previousAt: dueAt - 1, stillMs: 0, hops: 0, pausedAt: null,
  resumedAt: null, doneStepIds, ownAct: justAsked,
  ...limitAfter === null ? { heldSince: null, limitAt: null } : { heldSince: dueAt, limitAt: dueAt + limitAfter },
})

/** Whether somebody who stands before a step could come to another one: without jumps, only to what is written behind it. */
function stillAhead(program: Program, fromId: string): (stepId: string) => boolean {
  const order = allSteps<Step>(program.steps)
  const from = order.some(({ kind }) => kind === 'jump') ? 0 : order.findIndex(({ id }) => id === fromId)
  const ahead = new Set(order.slice(from).map(({ id }) => id))
  return stepId => ahead.has(stepId)
}
