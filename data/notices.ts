/** What rules tell the owner. */
import type { Instant } from '#core/time/zone'
import type { Database } from './connection'
import { prepare } from './connection'
import type { Due } from './dueKind'

export const NOTICES_DUE: Due = { rows: 'notices WHERE mail_due_at IS NOT NULL', at: 'mail_due_at' }

export interface NoticeRow {
  id: number, personId: number, text: string, ruleId: number | null, eventId: number, at: Instant, seenAt: Instant | null,
  email: 'no' | 'at-once' | 'daily', mailDueAt: Instant | null,
}

const NOTICE = `
  SELECT id, person_id AS personId, text, rule_id AS ruleId, event_id AS eventId, at, seen_at AS seenAt, email, mail_due_at AS mailDueAt
  FROM notices`

export function insertNotice(db: Database, row: Omit<NoticeRow, 'id' | 'seenAt'>): void {
  prepare(db, 'INSERT INTO notices (person_id, text, rule_id, event_id, at, email, mail_due_at) VALUES (?, ?, ?, ?, ?, ?, ?)').run(
    row.personId, row.text, row.ruleId, row.eventId, row.at, row.email, row.mailDueAt,
  )
}

/** Not looked at yet, newest first. */
export function unseenNotices(db: Database, limit: number): NoticeRow[] {
  return prepare<NoticeRow>(db, `${NOTICE} WHERE seen_at IS NULL ORDER BY at DESC, id DESC LIMIT ?`).all(limit)
}

export function countUnseen(db: Database): number {
  return prepare<{ n: number }>(db, 'SELECT count(*) AS n FROM notices WHERE seen_at IS NULL').get()!.n
}

export function latestNotices(db: Database, limit: number): NoticeRow[] {
  return prepare<NoticeRow>(db, `${NOTICE} ORDER BY at DESC, id DESC LIMIT ?`).all(limit)
}

/** All up to this one were looked at. */
export function markSeen(db: Database, upToId: number, at: Instant): void {
  prepare(db, 'UPDATE notices SET seen_at = ? WHERE seen_at IS NULL AND id <= ?').run(at, upToId)
}

export function noticesToMail(db: Database, at: Instant, limit: number): NoticeRow[] {
  return prepare<NoticeRow>(db, `${NOTICE} WHERE mail_due_at IS NOT NULL AND mail_due_at <= ? ORDER BY mail_due_at, id LIMIT ?`).all(
    at, limit,
  )
}

/** They go with that email; with none where there is no address to write to. */
export function setNoticeEmail(db: Database, ids: readonly number[], outboxId: number | null): void {
  prepare(db, 'UPDATE notices SET outbox_id = ?, mail_due_at = NULL WHERE id IN (SELECT value FROM json_each(?))').run(
    outboxId, JSON.stringify(ids),
  )
}

export function noticesOfEmail(db: Database, outboxId: number): NoticeRow[] {
  return prepare<NoticeRow>(db, `${NOTICE} WHERE outbox_id = ? ORDER BY at, id`).all(outboxId)
}

export function markNoticesMailed(db: Database, outboxId: number, at: Instant): void {
  prepare(db, 'UPDATE notices SET mailed_at = ? WHERE outbox_id = ?').run(at, outboxId)
}
