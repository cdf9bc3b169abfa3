/** Who was asked to confirm an opt-in, and what became of it. */
import type { ConfirmationRequest } from '#core/page/confirm'
import { nextOfConfirmation, type ConfirmationTimes } from '#core/page/confirm'
import type { Answered } from '#core/page/form'
import type { Touch } from '#core/page/touch'
import type { Instant } from '#core/time/zone'
import type { Database } from './connection'
import { prepare } from './connection'
import type { Due } from './dueKind'

export const CONFIRMATIONS_DUE: Due = { rows: 'confirmations WHERE next_at IS NOT NULL', at: 'next_at' }

/**
 * What somebody typed and chose, kept until they say yes. `known`: they were one of ours before. `resultId`: the result page that is
 * theirs.
 */
export interface Answers {
  firstName: string, zone: string | null, ip: string | null, touch: Touch, answered: Answered, known: boolean, resultId: string | null,
}

export interface ConfirmationRow extends ConfirmationRequest {
  id: number
  pageId: number
  pageVersionId: number
  personId: number
  /** The latest press of the button. */
  eventId: number
  answers: Answers
  askedAt: Instant
  /** When an email was last queued for it; null if none was. */
  mailedAt: Instant | null
  mails: number
  remindAt: Instant | null
  endedAt: Instant | null
}

type Raw = Omit<ConfirmationRow, 'answers'> & { answers: string }

const ROW = `SELECT id, page_id AS pageId, page_version_id AS pageVersionId, person_id AS personId, event_id AS eventId, answers, state,
  asked_at AS askedAt, mailed_at AS mailedAt, mails,
  remind_at AS remindAt, expires_at AS expiresAt, ended_at AS endedAt FROM confirmations`

/** Also as they were kept before answers picked a page, and emptied when somebody was erased. */
function parse(row: Raw): ConfirmationRow {
  const answers = JSON.parse(row.answers) as Answers
  return {
    ...row,
    answers: { ...answers, resultId: answers.resultId ?? null, answered: { ...answers.answered, chosen: answers.answered?.chosen ?? {} } },
  }
}

export function findConfirmation(db: Database, id: number): ConfirmationRow | undefined {
  const row = prepare<Raw>(db, `${ROW} WHERE id = ?`).get(id)
  return row && parse(row)
}

export function waitingFor(db: Database, pageId: number, personId: number): ConfirmationRow | undefined {
  const row = prepare<Raw>(db, `${ROW} WHERE page_id = ? AND person_id = ? AND state = 'waiting'`).get(pageId, personId)
  return row && parse(row)
}

export function waitingOfPerson(db: Database, personId: number): ConfirmationRow[] {
  return prepare<Raw>(db, `${ROW} WHERE person_id = ? AND state = 'waiting' ORDER BY id`).all(personId).map(parse)
}

/** Those whose reminder or end has come by `at`, in order. */
export function dueConfirmations(db: Database, at: Instant, limit: number): ConfirmationRow[] {
  return prepare<Raw>(db, `${ROW} WHERE next_at IS NOT NULL AND next_at <= ? ORDER BY next_at, id LIMIT ?`).all(at, limit).map(parse)
}

export type Asked = Pick<ConfirmationRow, 'pageId' | 'pageVersionId' | 'personId' | 'eventId' | 'answers' | 'askedAt'> & ConfirmationTimes

export function insertConfirmation(db: Database, row: Asked): number {
  return Number(prepare(db, `
    INSERT INTO confirmations (page_id, page_version_id, person_id, event_id, answers, state, asked_at, remind_at, expires_at, next_at)
    VALUES (?, ?, ?, ?, ?, 'waiting', ?, ?, ?, ?)`)
    .run(
      row.pageId, row.pageVersionId, row.personId, row.eventId, JSON.stringify(row.answers), row.askedAt, row.remindAt, row.expiresAt,
      nextOfConfirmation(row),
    ).lastInsertRowid)
}

/** The button was pressed once more while it waits: the newer answers count. */
export function renewConfirmation(db: Database, id: number, row: Asked): void {
  prepare(db, `
    UPDATE confirmations
    SET page_version_id = ?, event_id = ?, answers = ?, asked_at = ?, remind_at = ?, expires_at = ?, next_at = ? WHERE id = ?`)
    .run(row.pageVersionId, row.eventId, JSON.stringify(row.answers), row.askedAt, row.remindAt, row.expiresAt, nextOfConfirmation(row), id)
}

/** An email was queued for it. */
export function markMailed(db: Database, id: number, at: Instant): void {
  prepare(db, 'UPDATE confirmations SET mailed_at = ?, mails = mails + 1 WHERE id = ?').run(at, id)
}

/** Its one reminder is on its way. */
export function markReminded(db: Database, { id, expiresAt }: ConfirmationRow): void {
  prepare(db, 'UPDATE confirmations SET remind_at = NULL, next_at = ? WHERE id = ?').run(
    nextOfConfirmation({ expiresAt, remindAt: null }), id,
  )
}

export function endConfirmation(db: Database, id: number, state: Exclude<ConfirmationRow['state'], 'waiting'>, at: Instant): void {
  prepare(db, 'UPDATE confirmations SET state = ?, ended_at = ?, next_at = NULL, remind_at = NULL WHERE id = ?').run(state, at, id)
}
