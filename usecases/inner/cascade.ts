/**
 * What one event brings about for one person without any time passing, over courses, rules and everything that enrols:
 * bounded in depth and in number of steps, so that nothing goes round without end. What is cut off is written down once.
 */
import { DEEPEST_CHAIN } from '#core/rules/waking'
import { MOST_HOPS } from '#core/sequence/advance'
import type { Instant } from '#core/time/zone'
import { addCascadeSteps, cutCascade } from '#data/cascades'
import type { Database } from '#data/connection'
import { appendEvent, findRawEvent, type RawEvent } from '#data/events'
import { findEmail } from '#data/outbox'

export interface Cascade {
  /** The event with which it began. */
  rootId: number
  /** How many enrolments and rules lie between that and this; at most {@link DEEPEST_CHAIN} are counted. */
  depth: number
}

/** Where an event lies in the cascade that it belongs to. */
export function cascadeOf(db: Database, eventId: number): Cascade {
  let event = findRawEvent(db, eventId)
  let rootId = eventId
  let depth = 0
  while (event && depth < DEEPEST_CHAIN) {
    rootId = event.id
    const cause: RawEvent | undefined = event.causeId === null ? undefined : findRawEvent(db, event.causeId)
    if (event.kind === 'enrolled' || (event.ruleId !== null && event.ruleId !== cause?.ruleId)) depth++
    if (!cause || cause.personId !== event.personId || !isAtTheSameTime(db, event, cause)) break
    event = cause
  }
  return { rootId, depth }
}

/** The sending of an email belongs to the instant it was planned for, however late the machine gets round to it. */
function isAtTheSameTime(db: Database, event: RawEvent, cause: RawEvent): boolean {
  if (event.at === cause.at) return true
  return event.kind === 'sent' && event.outboxId !== null && findEmail(db, event.outboxId)?.plannedAt === cause.at
}

/** Counts one step more; false, and written down, where that is too deep or too many. `about`: what would have been done. */
export function mayGoOn(
  db: Database, { rootId, depth }: Cascade, causeId: number, personId: number, at: Instant, about: { courseId?: number, ruleId?: number },
): boolean {
  if (depth === 0) return true
  const steps = addCascadeSteps(db, rootId, personId, 1)
  if (depth < DEEPEST_CHAIN && steps <= MOST_HOPS) return true
  if (cutCascade(db, rootId, personId)) {
    appendEvent(db, 'cascade-cut', at, { personId, causeId, ...about, detail: depth < DEEPEST_CHAIN ? 'too-many' : 'too-deep' })
  }
  return false
}
