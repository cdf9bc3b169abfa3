/** What the engine has before it, and what it could not do. */
import type { WorkKind } from '#core/views/engine'
import type { Instant } from '#core/time/zone'
import type { Database } from './connection'
import { q } from './connection'

/** Of each kind of work the column of its time and the rows that wait for it. */
const WAITS: Record<WorkKind, { at: string, rows: string }> = {
  step: { at: 'due_at', rows: 'enrolments WHERE due_at IS NOT NULL' },
  coming: { at: 'due_at', rows: 'comings_in WHERE 1' },
  email: { at: 'go_at', rows: `outbox WHERE status IN ('queued', 'failed') AND go_at IS NOT NULL` },
  click: { at: 'settle_at', rows: 'clicks WHERE judged IS NULL' },
  watch: { at: 'due_at', rows: 'watches WHERE done_at IS NULL' },
  asking: { at: 'next_at', rows: 'confirmations WHERE next_at IS NOT NULL' },
  expiry: { at: 'expires_at', rows: 'tag_holdings WHERE expires_at IS NOT NULL' },
  call: { at: 'next_at', rows: 'hook_deliveries WHERE next_at IS NOT NULL' },
  look: { at: 'at', rows: 'looks WHERE 1' },
  reader: { at: 'due_at', rows: 'reader_acts WHERE done_at IS NULL' },
}

export function workOf(db: Database, kind: WorkKind, now: Instant): { due: number, oldestAt: Instant | null, nextAt: Instant | null } {
  const { at, rows } = WAITS[kind]
  const { due, oldestAt } = q<{ due: number, oldestAt: Instant | null }>(db, `SELECT count(*) AS due, min(${at}) AS oldestAt FROM ${rows} AND ${at} <= ?`).get(now)!
  return { due, oldestAt, nextAt: q<{ at: Instant | null }>(db, `SELECT min(${at}) AS at FROM ${rows} AND ${at} > ?`).get(now)!.at }
}

export function givenUpEmails(db: Database, limit: number): { outboxId: number, personId: number, name: string, title: string, reason: string, plannedAt: Instant }[] {
  return q<ReturnType<typeof givenUpEmails>[number]>(db, `
    SELECT o.id AS outboxId, o.person_id AS personId, CASE p.first_name WHEN '' THEN p.address ELSE p.first_name || ', ' || p.address END AS name, m.working_title AS title, coalesce(o.reason, '') AS reason, o.planned_at AS plannedAt
    FROM outbox o JOIN people p ON p.id = o.person_id JOIN messages m ON m.id = o.message_id
    WHERE o.status = 'failed' AND o.go_at IS NULL AND p.status <> 'bounced' AND p.gone IS NULL ORDER BY o.planned_at DESC, o.id DESC LIMIT ?`).all(limit)
}

const GIVEN_UP = `status = 'failed' AND go_at IS NULL AND person_id IN (SELECT id FROM people WHERE status <> 'bounced' AND gone IS NULL)`

export const countGivenUp = (db: Database): number => q<{ n: number }>(db, `SELECT count(*) AS n FROM outbox WHERE ${GIVEN_UP}`).get()!.n

/** They wait to leave again, one of them or all. Returns how many. An address that bounced is not tried. */
export function queueAgain(db: Database, at: Instant, outboxId: number | null): number {
  return q(db, `UPDATE outbox SET status = 'queued', go_at = @at, reason = NULL, first_try_at = NULL WHERE ${GIVEN_UP} AND (@outboxId IS NULL OR id = @outboxId)`).run({ at, outboxId }).changes
}

export const sentSinceThen = (db: Database, since: Instant): number => q<{ n: number }>(db, 'SELECT count(*) AS n FROM outbox WHERE handed_over_at > ?').get(since)!.n
