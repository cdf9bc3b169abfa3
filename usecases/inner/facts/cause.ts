/** What brings something about. */
import type { Instant } from '#core/time/zone'

/** When, by which event, and whether it was the person's own act. */
export interface Cause {
  at: Instant
  /** Null for what the owner does by hand. */
  causeId: number | null
  ownAct: boolean
  /** The owner said so for many at once, which is as good as by hand. */
  byOwner?: boolean
  /** A house rule does it. */
  byRule?: boolean
  /** A step of a course does it. */
  byCourse?: boolean
  /** A program does it, with a key the owner gave it. */
  byProgram?: boolean
}

/**
 * What an action comes of: an event, by a rule, by a step of a course or, without either, by following a link, which is the person's own
 * act.
 */
export interface ActionCause { at: Instant, causeId: number, ruleId: number | null, courseId?: number }

/** How it came about, as an event's detail says it; undefined for what a person did. */
export function how({ causeId, byOwner, byRule, byCourse, byProgram }: Omit<Cause, 'at' | 'ownAct'>): string | undefined {
  if (byRule) return 'by-rule'
  if (byCourse) return 'by-course'
  if (byProgram) return 'by-program'
  return causeId === null || byOwner ? 'by-hand' : undefined
}
