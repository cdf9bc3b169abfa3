/** The engine room: what is due, how late, what failed and why. */
import type { Instant } from '#core/time/zone'

/** Its owner lets nothing leave. `waiting`: emails that are due. */
export interface HeldView { sinceAt: Instant, waiting: number }

export interface EngineView {
  held: HeldView | null
  now: Instant
  /** When the engine was last seen, by the machine's own clock; and how long ago that is, in milliseconds. */
  seenMsAgo: number | null
  carrier: 'ready' | 'stopped' | 'pausing'
  carrierReason: string | null
  /** Of each kind of work: how much is due by now and not done yet, since when the oldest, and when the next comes. */
  work: { kind: string, name: string, due: number, oldestAt: Instant | null, nextAt: Instant | null }[]
  /** In the last hour of the workspace's clock. */
  sentLastHour: number
  waitingAgain: number
  /** Emails that were given up, the latest first. */
  givenUp: { outboxId: number, personId: number, name: string, title: string, reason: string, plannedAt: Instant }[]
  givenUpCount: number
  /** What was asked for many and is not done yet. */
  tasks: { id: number, title: string, done: number, total: number }[]
  /** Courses in which some stand in an older version. */
  moving: string[]
}
