/** What the engine has before it, and what it could not do. */
import type { Instant } from '#core/time/zone'
import type { Database } from './connection'
import { prepare } from './connection'

export function givenUpEmails(
  db: Database, limit: number,
): { outboxId: number, personId: number, name: string, title: string, reason: string, plannedAt: Instant }[] {
  return prepare<ReturnType<typeof givenUpEmails>[number]>(db, `
    SELECT o.id AS outboxId, o.person_id AS personId, CASE p.first_name WHEN '' THEN p.address
      ELSE p.first_name || ', ' || p.address END AS name, m.working_title AS title, coalesce(o.reason, '') AS reason,
        o.planned_at AS plannedAt
    FROM outbox o JOIN people p ON p.id = o.person_id JOIN messages m ON m.id = o.message_id
    WHERE o.status = 'failed' AND o.go_at IS NULL AND p.status <> 'bounced' AND p.gone IS NULL ORDER BY o.planned_at DESC, o.id DESC
      LIMIT ?`).all(limit)
}

const GIVEN_UP = `status = 'failed' AND go_at IS NULL AND person_id IN (SELECT id FROM people WHERE status <> 'bounced' AND gone IS NULL)`

export const countGivenUp = (db: Database): number =>
  prepare<{ n: number }>(db, `SELECT count(*) AS n FROM outbox WHERE ${GIVEN_UP}`).get()!.n

/** They wait to leave again, one of them or all. Returns how many. An address that bounced is not tried. */
export function queueAgain(db: Database, at: Instant, outboxId: number | null): number {
  return prepare(db, `
    UPDATE outbox SET status = 'queued', go_at = @at, reason = NULL, first_try_at = NULL WHERE ${GIVEN_UP}
    AND (@outboxId IS NULL OR id = @outboxId)`).run({ at, outboxId }).changes
}

export const sentSinceThen = (db: Database, since: Instant): number =>
  prepare<{ n: number }>(db, 'SELECT count(*) AS n FROM outbox WHERE handed_over_at > ?').get(since)!.n
