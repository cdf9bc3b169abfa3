/** What readers do for themselves: pauses, taking back, other addresses, and why they left. */
import type { LeavingAnswer } from '#core/people/leaving'
import type { Status } from '#core/people/status'
import type { Instant } from '#core/time/zone'
import type { Database } from './connection'
import { prepare } from './connection'
import { kindsInSql } from './sends'
import type { EnrolmentRow } from './enrolments'
import type { Due } from './dueKind'

export const PAUSES_DUE: Due = { rows: 'people WHERE paused_until_at IS NOT NULL', at: 'paused_until_at' }

/* Pauses */

export function setPause(db: Database, personId: number, pause: { at: Instant, untilAt: Instant } | null): void {
  prepare(db, 'UPDATE people SET paused_at = ?, paused_until_at = ? WHERE id = ?').run(pause?.at ?? null, pause?.untilAt ?? null, personId)
}

export function pauseOf(db: Database, personId: number): { at: Instant, untilAt: Instant } | null {
  return prepare<{ at: Instant, untilAt: Instant }>(
    db, 'SELECT paused_at AS at, paused_until_at AS untilAt FROM people WHERE id = ? AND paused_until_at IS NOT NULL',
  ).get(personId) ?? null
}

/** Whether nothing of a course moves for them: by a pause of their own, or because they rest. */
export function restsOrPauses(db: Database, personId: number): boolean {
  return prepare(
    db, `SELECT 1 FROM people WHERE id = ? AND (paused_until_at IS NOT NULL OR status = 'resting')`,
  ).get(personId) !== undefined
}

/** What is planned for them waits until they are back; what they have just asked for does not. */
export function holdMail(db: Database, personId: number): void {
  prepare(db, `UPDATE outbox SET status = 'queued', go_at = NULL, reason = 'resting'
    WHERE person_id = ? AND asked_for = 0 AND kind IN (${kindsInSql(kind => kind.waitsForResting)})
    AND status IN ('queued', 'failed') AND go_at IS NOT NULL`).run(personId)
}

export function releaseMail(db: Database, personId: number, at: Instant): void {
  prepare(db, `
    UPDATE outbox SET go_at = max(planned_at, ?), reason = NULL WHERE person_id = ? AND status = 'queued' AND go_at IS NULL
    AND reason = 'resting'`).run(at, personId)
}

export function endingPauses(db: Database, at: Instant, limit: number): { personId: number, untilAt: Instant }[] {
  return prepare<{ personId: number, untilAt: Instant }>(db, `
    SELECT id AS personId, paused_until_at AS untilAt FROM people WHERE paused_until_at IS NOT NULL AND paused_until_at <= ?
    ORDER BY paused_until_at, id LIMIT ?`).all(at, limit)
}

/** What waits to be sent goes when the pause is over; what they have just asked for does not wait. */
export function putOffMail(db: Database, personId: number, untilAt: Instant): void {
  prepare(db, `
    UPDATE outbox SET go_at = ? WHERE person_id = ? AND asked_for = 0 AND status IN ('queued', 'failed') AND go_at IS NOT NULL
    AND go_at < ?`).run(untilAt, personId, untilAt)
}

export function bringMailForward(db: Database, personId: number, putOffTo: Instant, at: Instant): void {
  prepare(db, `UPDATE outbox SET go_at = ? WHERE person_id = ? AND status IN ('queued', 'failed') AND go_at = ?`).run(
    at, personId, putOffTo,
  )
}

/* Taking back */

/** How somebody stood: only what leaving can take from them. */
export interface StoodBefore {
  status: Status
  joined: number[]
  interests: number[]
  paused: boolean
  enrolments: StoodThere[]
  /** Emails that had not begun to be handed over. */
  emails: number[]
}

/** Where somebody stood in a course, or how long they had been waiting in a hold, and until when. */
export type StoodThere = Pick<EnrolmentRow, 'id' | 'stepId' | 'dueAt' | 'heldSince' | 'limitAt' | 'pausedAt'>

export const stoodThere = ({ id, stepId, dueAt, heldSince, limitAt, pausedAt }: EnrolmentRow): StoodThere => ({
  id, stepId, dueAt, heldSince, limitAt, pausedAt,
})

export interface UndoRow { id: number, personId: number, before: StoodBefore, at: Instant, doneAt: Instant | null }

export function insertUndo(db: Database, row: { personId: number, outboxId: number, before: StoodBefore, at: Instant }): number {
  return Number(prepare(db, 'INSERT INTO undos (person_id, outbox_id, before, at) VALUES (?, ?, ?, ?)').run(
    row.personId, row.outboxId, JSON.stringify(row.before), row.at,
  ).lastInsertRowid)
}

/** What this person did last on their choices page. */
export function latestUndo(db: Database, personId: number): UndoRow | undefined {
  const row = prepare<Omit<UndoRow, 'before'> & { before: string }>(
    db, 'SELECT id, person_id AS personId, before, at, done_at AS doneAt FROM undos WHERE person_id = ? ORDER BY id DESC LIMIT 1',
  ).get(personId)
  return row && { ...row, before: JSON.parse(row.before) as StoodBefore }
}

export function markUndone(db: Database, id: number, at: Instant): void {
  prepare(db, 'UPDATE undos SET done_at = ? WHERE id = ?').run(at, id)
}

export function emailsNotBegun(db: Database, personId: number): number[] {
  return prepare<{ id: number }>(db, `
    SELECT id FROM outbox WHERE person_id = ? AND (status IN ('queued', 'leased') OR (status = 'failed' AND go_at IS NOT NULL))
    ORDER BY id`).all(personId).map(row => row.id)
}

/** Of one journey. */
export function emailsOfJourney(db: Database, enrolmentId: number): number[] {
  return prepare<{ id: number }>(db, `
    SELECT id FROM outbox WHERE enrolment_id = ? AND (status IN ('queued', 'leased') OR (status = 'failed' AND go_at IS NOT NULL))
    ORDER BY id`).all(enrolmentId).map(row => row.id)
}

/** Withdrawn emails wait again, as they were planned. */
export function queueWithdrawn(db: Database, ids: readonly number[]): void {
  prepare(db, `
    UPDATE outbox SET status = 'queued', go_at = planned_at, reason = NULL WHERE status = 'withdrawn'
    AND id IN (SELECT value FROM json_each(?))`).run(JSON.stringify(ids))
}

/** A journey that was ended is open again, where it stood. */
export function reopenEnrolment(db: Database, { id, stepId, dueAt, heldSince, limitAt, pausedAt }: StoodThere): boolean {
  return prepare(db, `UPDATE enrolments SET status = 'open', step_id = ?, due_at = ?, held_since = ?, limit_at = ?, paused_at = ?,
    ended_at = NULL WHERE id = ? AND status = 'left'
    AND NOT EXISTS (SELECT 1
      FROM enrolments o WHERE o.course_id = enrolments.course_id AND o.person_id = enrolments.person_id AND o.status = 'open')`).run(
      stepId, dueAt, heldSince ?? null, limitAt ?? null, pausedAt ?? null, id,
    ).changes === 1
}

/** An open journey stands there again. */
export function setStand(db: Database, { id, stepId, dueAt, heldSince, limitAt, pausedAt }: StoodThere): void {
  prepare(db, 'UPDATE enrolments SET step_id = ?, due_at = ?, held_since = ?, limit_at = ?, paused_at = ? WHERE id = ?').run(
    stepId, dueAt, heldSince ?? null, limitAt ?? null, pausedAt ?? null, id,
  )
}

/** The last thing done by hand to one journey. `after`: where it stood then; null where it was ended. `emails` were waiting before. */
export interface JourneyUndo { before: StoodThere, after: StoodThere | null, emails: number[], at: Instant }

export function keepJourneyUndo(db: Database, { before, after, emails, at }: JourneyUndo): void {
  prepare(db, 'INSERT OR REPLACE INTO journey_undos (enrolment_id, before, after, emails, at) VALUES (?, ?, ?, ?, ?)').run(
    before.id, JSON.stringify(before), after && JSON.stringify(after), JSON.stringify(emails), at,
  )
}

/** Found once: it is forgotten. */
export function takeJourneyUndo(db: Database, enrolmentId: number): JourneyUndo | undefined {
  const row = prepare<{ before: string, after: string | null, emails: string, at: Instant }>(
    db, 'DELETE FROM journey_undos WHERE enrolment_id = ? RETURNING before, after, emails, at',
  ).get(enrolmentId)
  return row && {
    at: row.at, before: JSON.parse(row.before) as StoodThere, after: row.after === null ? null : JSON.parse(row.after) as StoodThere,
    emails: JSON.parse(row.emails) as number[],
  }
}

/* Another address */

export interface AddressChange {
  id: number, personId: number, address: string, addressKey: string, askedAt: Instant, expiresAt: Instant, doneAt: Instant | null,
}

export function insertAddressChange(db: Database, row: Omit<AddressChange, 'id' | 'doneAt'>): number {
  return Number(prepare(
    db, 'INSERT INTO address_changes (person_id, address, address_key, asked_at, expires_at) VALUES (?, ?, ?, ?, ?)',
  ).run(row.personId, row.address, row.addressKey, row.askedAt, row.expiresAt).lastInsertRowid)
}

export function findAddressChange(db: Database, id: number): AddressChange | undefined {
  return prepare<AddressChange>(db, `
    SELECT id, person_id AS personId, address, address_key AS addressKey, asked_at AS askedAt, expires_at AS expiresAt, done_at AS doneAt
    FROM address_changes WHERE id = ?`).get(id)
}

/** The question is over, unanswered. */
export function endAddressChange(db: Database, id: number, at: Instant): void {
  prepare(db, 'UPDATE address_changes SET expires_at = min(expires_at, ?) WHERE id = ?').run(at - 1, id)
}

export function markAddressChanged(db: Database, id: number, at: Instant): void {
  prepare(db, 'UPDATE address_changes SET done_at = ? WHERE id = ?').run(at, id)
}

/* Why they left */

/** The first answer about an email counts. */
export function insertLeavingAnswer(db: Database, outboxId: number, answer: LeavingAnswer, at: Instant): void {
  prepare(db, 'INSERT OR IGNORE INTO leaving_answers (outbox_id, answer, at) VALUES (?, ?, ?)').run(outboxId, answer, at)
}

export function wasAnswered(db: Database, outboxId: number): boolean {
  return prepare(db, 'SELECT 1 FROM leaving_answers WHERE outbox_id = ?').get(outboxId) !== undefined
}

export function leavingAnswers(db: Database): { answer: LeavingAnswer, n: number }[] {
  return prepare<{ answer: LeavingAnswer, n: number }>(
    db, 'SELECT answer, count(*) AS n FROM leaving_answers GROUP BY answer ORDER BY n DESC, answer',
  ).all()
}
