/** Whether everything is well. */
import type { Instant } from '#core/time/zone'
import type { Health } from '#core/views/frame'
import { SCHEMA_VERSION } from '#data/migrate'
import { heartbeatOf } from '#data/workspace'
import type { WorkspaceContext } from '../context'
import { lateness, TOO_LATE } from './lateness'

/** An engine that has not been seen for this long is not well: it beats every second. */
const SILENCE_MS = 10_000

/** `systemNow` is the machine's time: heartbeats do not follow the practice clock. */
export function healthView(context: WorkspaceContext, live: WorkspaceContext | null, systemNow: Instant, version: string): Health {
  // Reading it is the proof that the database answers.
  const beat = heartbeatOf(context.db, 'engine')
  const engineWell = beat !== undefined && systemNow - beat.seenAt < SILENCE_MS
  const liveHealth = live && liveHealthOf(live, systemNow)
  return {
    well: engineWell && (liveHealth?.well ?? true),
    web: { well: true, version },
    engine: { well: engineWell, version: beat?.version ?? null, seenAt: beat?.seenAt ?? null },
    live: liveHealth,
    database: { well: true, schema: SCHEMA_VERSION },
  }
}

function liveHealthOf({ db, clock }: WorkspaceContext, systemNow: Instant): NonNullable<Health['live']> {
  const beat = heartbeatOf(db, 'engine')
  const lateMs = lateness(db, clock.now())
  return { well: beat !== undefined && systemNow - beat.seenAt < SILENCE_MS && lateMs <= TOO_LATE, seenAt: beat?.seenAt ?? null, lateMs }
}
