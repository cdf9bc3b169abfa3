/** Opens, clicks, and what the invented readers of practice are going to do. */
import type { Instant } from '#core/time/zone'
import type { Database } from './connection'
import { prepare } from './connection'
import { markRead } from './people'
import type { Due } from './dueKind'

export const CLICKS_DUE: Due = { rows: 'clicks WHERE judged IS NULL', at: 'settle_at' }
export const READERS_DUE: Due = { rows: 'reader_acts WHERE done_at IS NULL', at: 'due_at' }

export type OpenJudgement = 'reader' | 'prefetch' | 'scanner'
export type ClickJudgement = 'reader' | 'scanner'

export function insertOpen(
  db: Database, row: { outboxId: number, personId: number, at: Instant, judged: OpenJudgement, eventId: number },
): void {
  prepare(db, 'INSERT INTO opens (outbox_id, at, judged, event_id) VALUES (?, ?, ?, ?)').run(row.outboxId, row.at, row.judged, row.eventId)
  if (row.judged === 'reader') {
    prepare(db, `
      UPDATE outbox SET opened_at = min(coalesce(opened_at, @at), @at), last_opened_at = max(coalesce(last_opened_at, @at), @at)
      WHERE id = @outboxId`).run({ at: row.at, outboxId: row.outboxId })
  }
  markRead(db, row.personId, row.judged === 'reader' ? 'reader' : 'uncertain', row.at)
}

export interface ClickRow {
  id: number, outboxId: number, linkN: number, at: Instant, suspect: 0 | 1, settleAt: Instant, judged: ClickJudgement | null,
  eventId: number | null,
}

const CLICK =
  'SELECT id, outbox_id AS outboxId, link_n AS linkN, at, suspect, settle_at AS settleAt, judged, event_id AS eventId FROM clicks'

export function insertClick(
  db: Database, row: { outboxId: number, linkN: number, at: Instant, suspect: 0 | 1, settleAt: Instant },
): number {
  return Number(prepare(db, 'INSERT INTO clicks (outbox_id, link_n, at, suspect, settle_at) VALUES (?, ?, ?, ?, ?)')
    .run(row.outboxId, row.linkN, row.at, row.suspect, row.settleAt).lastInsertRowid)
}

export function findClick(db: Database, id: number): ClickRow | undefined {
  return prepare<ClickRow>(db, `${CLICK} WHERE id = ?`).get(id)
}

export function clicksOfEmail(db: Database, outboxId: number): ClickRow[] {
  return prepare<ClickRow>(db, `${CLICK} WHERE outbox_id = ? ORDER BY at, id`).all(outboxId)
}

export function clicksToSettle(db: Database, at: Instant, limit: number): ClickRow[] {
  return prepare<ClickRow>(db, `${CLICK} WHERE judged IS NULL AND settle_at <= ? ORDER BY settle_at, id LIMIT ?`).all(at, limit)
}

export function settleClick(db: Database, click: ClickRow, personId: number, judged: ClickJudgement, eventId: number): void {
  prepare(db, 'UPDATE clicks SET judged = ?, event_id = ? WHERE id = ? AND judged IS NULL').run(judged, eventId, click.id)
  if (judged !== 'reader') return
  prepare(db, `
    UPDATE outbox SET clicked_at = min(coalesce(clicked_at, @at), @at), last_clicked_at = max(coalesce(last_clicked_at, @at), @at)
    WHERE id = @outboxId`).run({ at: click.at, outboxId: click.outboxId })
  markRead(db, personId, 'reader', click.at)
}

export function markLeft(db: Database, outboxId: number, at: Instant): void {
  prepare(db, 'UPDATE outbox SET left_at = ? WHERE id = ? AND left_at IS NULL').run(at, outboxId)
}

/* The invented readers of practice */

export function insertInventedReader(db: Database, personId: number, keennessPct: number): void {
  prepare(db, 'INSERT OR IGNORE INTO invented_readers (person_id, keenness_pct) VALUES (?, ?)').run(personId, keennessPct)
}

export function keennessOf(db: Database, personId: number): number | undefined {
  return prepare<{ pct: number }>(db, 'SELECT keenness_pct AS pct FROM invented_readers WHERE person_id = ?').get(personId)?.pct
}

export interface ReaderActRow {
  id: number, outboxId: number, dueAt: Instant, kind: 'open' | 'click' | 'press' | 'leave', linkN: number | null, agent: string,
}

export function insertReaderAct(db: Database, row: Omit<ReaderActRow, 'id'>): void {
  prepare(db, 'INSERT INTO reader_acts (outbox_id, due_at, kind, link_n, agent) VALUES (?, ?, ?, ?, ?)').run(
    row.outboxId, row.dueAt, row.kind, row.linkN, row.agent,
  )
}

export function dueReaderActs(db: Database, at: Instant, limit: number): ReaderActRow[] {
  return prepare<ReaderActRow>(db, `
    SELECT id, outbox_id AS outboxId, due_at AS dueAt, kind, link_n AS linkN, agent FROM reader_acts
    WHERE done_at IS NULL AND due_at <= ? ORDER BY due_at, id LIMIT ?`).all(at, limit)
}

export function endReaderAct(db: Database, id: number, at: Instant): boolean {
  return prepare(db, 'UPDATE reader_acts SET done_at = ? WHERE id = ? AND done_at IS NULL').run(at, id).changes === 1
}

/** Every fetch and every following of this person's emails, in order. Clicks that are not judged yet say so by null. */
export function readingOfPerson(
  db: Database, personId: number,
): { outboxId: number, kind: 'open' | 'click', at: Instant, judged: string | null, url: string | null }[] {
  return prepare<ReturnType<typeof readingOfPerson>[number]>(db, `
    SELECT r.outbox_id AS outboxId, 'open' AS kind, r.at, r.judged, NULL AS url FROM outbox o JOIN opens r ON r.outbox_id = o.id
      WHERE o.person_id = @personId
    UNION ALL
    SELECT r.outbox_id, 'click', r.at, r.judged, k.url FROM outbox o JOIN clicks r ON r.outbox_id = o.id LEFT
      JOIN message_links k ON k.message_id = o.message_id AND k.n = r.link_n WHERE o.person_id = @personId
    ORDER BY 3`).all({ personId })
}
