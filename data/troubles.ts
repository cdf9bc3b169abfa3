/** What kept a process of ours from its work, by the machine's own clock. */
import type { Instant } from '#core/time/zone'
import type { Database } from './connection'
import { prepare } from './connection'

export interface TroubleRow { process: string, kind: string, said: string, at: Instant, overAt: Instant | null }

export function insertTrouble(db: Database, row: TroubleRow): void {
  // Several lanes meet the same: it is told once.
  prepare(db, `INSERT INTO troubles (process, kind, said, at, over_at) SELECT @process, @kind, @said, @at, @overAt
    WHERE NOT EXISTS (SELECT 1 FROM troubles WHERE process = @process AND kind = @kind AND over_at >= @at)`).run(row)
}

/** By kind, the latest first. */
export function troublesSince(db: Database, since: Instant): (TroubleRow & { times: number })[] {
  return prepare<TroubleRow & { times: number }>(db, `
    SELECT process, kind, said, max(at) AS at, over_at AS overAt, count(*) AS times FROM troubles WHERE at > ? GROUP BY process, kind
      ORDER BY at DESC`).all(since)
}
