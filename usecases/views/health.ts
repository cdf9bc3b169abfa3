/** Whether everything is well. */
import type { Instant } from '#core/time/zone'
import { SCHEMA_VERSION } from '#data/migrate'
import { heartbeatOf } from '#data/workspace'
import type { House } from '../house'

export interface Health {
  well: boolean
  web: { well: true, version: string }
  engine: { well: boolean, version: string | null, seenAt: Instant | null }
  database: { well: true, schema: number }
}

/** An engine that has not been seen for this long is not well: it beats every second. */
const SILENCE_MS = 10_000

/** `systemNow` is the machine's time: heartbeats do not follow the practice clock. */
export function healthView(house: House, systemNow: Instant, version: string): Health {
  // Reading it is the proof that the database answers.
  const beat = heartbeatOf(house.db, 'engine')
  const engineWell = beat !== undefined && systemNow - beat.seenAt < SILENCE_MS
  return {
    well: engineWell,
    web: { well: true, version },
    engine: { well: engineWell, version: beat?.version ?? null, seenAt: beat?.seenAt ?? null },
    database: { well: true, schema: SCHEMA_VERSION },
  }
}
