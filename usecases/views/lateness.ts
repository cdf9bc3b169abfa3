/** How late due work is, for whoever watches over a live workspace. */
import { SECOND, type Instant } from '#core/time/zone'
import type { Database } from '#data/connection'
import { DUE_KINDS, nextDue } from '#data/due'
import { workspaceOf } from '#data/workspace'

/** Mail that is due at once is promised within five seconds; a minute means that something is wrong. */
export const TOO_LATE = 60 * SECOND

/** Milliseconds since the oldest due thing was due; 0 where nothing is. While the carrier stands still, emails are not what is late. */
export function lateness(db: Database, now: Instant): number {
  const { carrierState, carrierPauseUntilAt, heldSinceAt } = workspaceOf(db)
  const takes = heldSinceAt === null && carrierState === 'ready' && (carrierPauseUntilAt === null || carrierPauseUntilAt <= now)
  const due = nextDue(db, takes ? DUE_KINDS : DUE_KINDS.filter(kind => kind !== 'email'))
  return due === null ? 0 : Math.max(0, now - due.at)
}
