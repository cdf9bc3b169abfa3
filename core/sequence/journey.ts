/** What is known of one person's journey through one course, what can happen to it, and what comes of that. */
import type { Condition } from '#core/audience/condition'
import type { Action } from '#core/rules/rule'
import type { DateOf } from '#core/time/when'
import type { WeekHours } from '#core/time/hours'
import type { Instant, ZoneName } from '#core/time/zone'
import type { DoStep, EmailStep, ForkStep, HoldStep, Program, Step, Until } from './program'

export interface Enrolment {
  status: 'open' | 'finished' | 'left'
  joinedAt: Instant
  /** Planned time of the last step done: what the next *when* counts from. */
  previousAt: Instant
  /** How long this journey has stood still in all, in milliseconds: what counts from joining is later by that. */
  stillMs: number
  /** The step this person stands before, or the hold they wait in; null once the course is over for them. */
  stepId: string | null
  /**
   * When there is something to do: the step, or looking whether a hold is over. Null while its email is still empty, and once the course is
   * over.
   */
  dueAt: Instant | null
  /** Since when they wait in the hold; null before any step. */
  heldSince: Instant | null
  /** Until when they wait at most. */
  limitAt: Instant | null
  /** How many steps were done at one instant so far: what never passes any time is stopped by it. */
  hops: number
  /**
   * Since when the journey stands still: a pause of the person's own, the owner's hand, resting. Its clock stands with it:
   * nothing is due, no hold is decided, and what is left of each wait begins to run again when it goes on. Null while it runs.
   */
  pausedAt: Instant | null
  /** When it last went on; null if it never stood still. */
  resumedAt: Instant | null
  /** Emails already sent in this visit: never repeated, whatever is edited. */
  doneStepIds: readonly string[]
  /** True if the person's own act brought them in: then an at-once first email is asked-for mail and waits for no sending hours. */
  ownAct: boolean
}

/**
 * What is known of what a hold waits for: when it happened, by event time; that its email was not sent, so that it cannot happen; or
 * nothing yet.
 */
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
  reevaluateAt(condition: Condition, at: Instant): Instant | null
  /** What is known of the thing a hold waits for. It looks back to the sending of the email it names, else to `since`. */
  awaited(until: Extract<Until, { kind: 'event' }>, since: Instant): Awaited
}

/** Why steps are planned anew. Only a zone overrides *skip if past*: nobody is passed over because a clock was set to another place. */
export type ReplanReason = 'published' | 'zone' | 'date' | 'hours'

export type JourneyEvent =
  | { kind: 'joined', at: Instant, ownAct: boolean }
  /** The clock reached `dueAt`. */
  | { kind: 'due', at: Instant }
  /** Something happened to the person by which a hold may be over. */
  | { kind: 'look', at: Instant }
  /** Unsent steps are planned anew from the same base. */
  | { kind: 'replan', at: Instant, from: Program, why: ReplanReason }
  /** It stands still from now on; nothing if it does already. */
  | { kind: 'paused', at: Instant }
  /** It goes on; nothing if it does already. */
  | { kind: 'resumed', at: Instant }
  /** Too many emails: the email of that step, planned for `from`, goes at `to`, and what follows counts from there. */
  | { kind: 'put-off', at: Instant, stepId: string, from: Instant, to: Instant }
  /** They continue at this step, by a reaction or by the owner's hand: what comes next counts from now. */
  | { kind: 'moved', at: Instant, toId: string }
  /** The course was over for them, and has a new end: they stand before this step of it. */
  | { kind: 'goes-on', at: Instant, toId: string }
  /** A way out, unsubscribing, leaving the list. */
  | { kind: 'left', at: Instant }

export type JourneyEffect =
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
  effects: JourneyEffect[]
}
