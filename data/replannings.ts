/** Changes after which everybody is planned anew, some at a time. */
import type { Instant } from '#core/time/zone'
import type { Database } from './connection'
import { prepare } from './connection'
import { keepSteady } from './kept'
import type { EnrolmentRow } from './enrolments'

export interface ReplanningRow {
  id: number
  why: 'zone' | 'hours'
  at: Instant
  eventId: number
  /** The last enrolment, and the last entry, that was done. */
  afterId: number
  entriesAfterId: number
  done: number
  total: number
}

const REPLANNING =
  `SELECT id, why, at, event_id AS eventId, after_id AS afterId, entries_after_id AS entriesAfterId, done, total FROM replannings`

export function insertReplanning(db: Database, row: Pick<ReplanningRow, 'why' | 'at' | 'eventId'>): void {
  prepare(db, `INSERT INTO replannings (why, at, event_id, total) VALUES (@why, @at, @eventId,
    (SELECT count(*) FROM enrolments WHERE status = 'open') + (SELECT count(*) FROM scheduled_entries))`).run(row)
}

/** 0 for none. */
export function latestReplanning(db: Database): number {
  return keepSteady(db, 'latest replanning', () =>
    prepare<{ id: number | null }>(db, 'SELECT max(id) AS id FROM replannings').get()!.id ?? 0)
}

/** Those made after that one, in their order. */
export function replanningsAfter(db: Database, id: number): ReplanningRow[] {
  return id >= latestReplanning(db) ? [] : prepare<ReplanningRow>(db, `${REPLANNING} WHERE id > ? ORDER BY id`).all(id)
}

/** The one that is under way, the oldest first. */
export function openReplanning(db: Database): ReplanningRow | undefined {
  return prepare<ReplanningRow>(db, `${REPLANNING} WHERE ended_at IS NULL ORDER BY id LIMIT 1`).get()
}

export function advanceReplanning(
  db: Database, { id, afterId, entriesAfterId, done }: Pick<ReplanningRow, 'id' | 'afterId' | 'entriesAfterId' | 'done'>,
): void {
  prepare(db, 'UPDATE replannings SET after_id = ?, entries_after_id = ?, done = ? WHERE id = ?').run(afterId, entriesAfterId, done, id)
}

export function endReplanning(db: Database, id: number, at: Instant): void {
  prepare(db, 'UPDATE replannings SET ended_at = ? WHERE id = ?').run(at, id)
}

export function setReplanned(db: Database, enrolmentId: number, replanningId: number): void {
  prepare(db, 'UPDATE enrolments SET replan_id = ? WHERE id = ?').run(replanningId, enrolmentId)
}

/** Enrolments not planned anew by it yet, by id. */
export function enrolmentsToReplan(
  db: Database, { id, afterId }: Pick<ReplanningRow, 'id' | 'afterId'>, limit: number,
): Pick<EnrolmentRow, 'id'>[] {
  return prepare<Pick<EnrolmentRow, 'id'>>(
    db, `SELECT id FROM enrolments WHERE id > ? AND status = 'open' AND replan_id < ? ORDER BY id LIMIT ?`,
  ).all(afterId, id, limit)
}

/** People on their way in, by the id of their entry. */
export function entriesToReplan(db: Database, afterId: number, limit: number): { id: number, personId: number }[] {
  return prepare<{ id: number, personId: number }>(
    db, 'SELECT id, person_id AS personId FROM scheduled_entries WHERE id > ? ORDER BY id LIMIT ?',
  ).all(afterId, limit)
}
