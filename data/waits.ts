/** Who waits until an offer can be bought. */
import type { Instant } from '#core/time/zone'
import type { Database } from './connection'
import { prepare } from './connection'
import type { CheckoutAnswers } from './purchases'
import type { Due } from './dueKind'

export const OPENINGS_DUE: Due = { rows: 'offers WHERE opening_due_at IS NOT NULL', at: 'opening_due_at' }

export interface WaitRow {
  id: number
  offerId: number
  personId: number
  /** The latest press of the button. */
  eventId: number
  answers: CheckoutAnswers
  askedAt: Instant
  /** When an email was last queued that asks for the yes; null if none was. */
  mailedAt: Instant | null
  mails: number
  confirmedAt: Instant | null
  toldAt: Instant | null
  endedAt: Instant | null
}

type Raw = Omit<WaitRow, 'answers'> & { answers: string }

const ROW = `SELECT id, offer_id AS offerId, person_id AS personId, event_id AS eventId, answers, asked_at AS askedAt,
  mailed_at AS mailedAt, mails,
  confirmed_at AS confirmedAt, told_at AS toldAt, ended_at AS endedAt FROM waits`
const OPEN = 'told_at IS NULL AND ended_at IS NULL'
const IN_LINE = `confirmed_at IS NOT NULL AND ${OPEN}`

const parse = (row: Raw): WaitRow => ({ ...row, answers: JSON.parse(row.answers) as CheckoutAnswers })

export function findWait(db: Database, id: number): WaitRow | undefined {
  const row = prepare<Raw>(db, `${ROW} WHERE id = ?`).get(id)
  return row && parse(row)
}

/** The one that is not over, confirmed or not. */
export function openWait(db: Database, offerId: number, personId: number): WaitRow | undefined {
  const row = prepare<Raw>(db, `${ROW} WHERE offer_id = ? AND person_id = ? AND ${OPEN}`).get(offerId, personId)
  return row && parse(row)
}

export type NewWait = Pick<WaitRow, 'offerId' | 'personId' | 'eventId' | 'answers' | 'askedAt'>

export function insertWait(db: Database, row: NewWait): number {
  return Number(prepare(db, 'INSERT INTO waits (offer_id, person_id, event_id, answers, asked_at) VALUES (?, ?, ?, ?, ?)')
    .run(row.offerId, row.personId, row.eventId, JSON.stringify(row.answers), row.askedAt).lastInsertRowid)
}

/** The button was pressed once more before the yes: the newer answers count. */
export function renewWait(db: Database, id: number, { eventId, answers, askedAt }: NewWait): void {
  prepare(db, 'UPDATE waits SET event_id = ?, answers = ?, asked_at = ? WHERE id = ?').run(eventId, JSON.stringify(answers), askedAt, id)
}

/** An email was queued that asks for the yes. */
export function markWaitMailed(db: Database, id: number, at: Instant): void {
  prepare(db, 'UPDATE waits SET mailed_at = ?, mails = mails + 1 WHERE id = ?').run(at, id)
}

export function confirmWait(db: Database, id: number, at: Instant): void {
  prepare(db, 'UPDATE waits SET confirmed_at = ? WHERE id = ?').run(at, id)
}

export function markTold(db: Database, id: number, at: Instant, turnUntilAt: Instant | null): void {
  prepare(db, 'UPDATE waits SET told_at = ?, turn_until_at = ? WHERE id = ?').run(at, turnUntilAt, id)
}

/** They wait no longer, and it is not their turn any more. True if they did or it was. */
export function endWaits(db: Database, offerId: number, personId: number, at: Instant): boolean {
  const turns = prepare(db, 'UPDATE waits SET turn_until_at = NULL WHERE offer_id = ? AND person_id = ? AND turn_until_at IS NOT NULL').run(
    offerId, personId,
  ).changes
  return prepare(db, `UPDATE waits SET ended_at = ? WHERE offer_id = ? AND person_id = ? AND ${OPEN}`).run(at, offerId, personId).changes
    + turns > 0
}

/** Whatever they wait for is over. */
export function endWaitsOfPerson(db: Database, personId: number, at: Instant, which: 'all' | 'unconfirmed'): void {
  if (which === 'all') prepare(db, 'UPDATE waits SET turn_until_at = NULL WHERE person_id = ? AND turn_until_at IS NOT NULL').run(personId)
  prepare(db, `UPDATE waits SET ended_at = ? WHERE person_id = ? AND ${OPEN} AND (confirmed_at IS NULL OR ? = 'all')`).run(
    at, personId, which,
  )
}

/** It is not offered any more. */
export function endWaitsOfOffer(db: Database, offerId: number, at: Instant): void {
  prepare(db, `UPDATE waits SET ended_at = ?, turn_until_at = NULL WHERE offer_id = ? AND ${OPEN}`).run(at, offerId)
  setOpeningDue(db, offerId, null)
}

export function countWaiting(db: Database, offerId: number): number {
  return prepare<{ n: number }>(db, `SELECT count(*) AS n FROM waits WHERE offer_id = ? AND ${IN_LINE}`).get(offerId)!.n
}

/** Who has waited longest comes first. */
export function nextInLine(db: Database, offerId: number, limit: number): WaitRow[] {
  return prepare<Raw>(db, `${ROW} WHERE offer_id = ? AND ${IN_LINE} ORDER BY confirmed_at, id LIMIT ?`).all(offerId, limit).map(parse)
}

/** When the turns end that are not over, the earliest first. */
export function turnEnds(db: Database, offerId: number, at: Instant): Instant[] {
  return prepare<{ at: Instant }>(
    db, 'SELECT turn_until_at AS at FROM waits WHERE offer_id = ? AND turn_until_at > ? ORDER BY turn_until_at',
  ).all(offerId, at).map(row => row.at)
}

/** How many were told since ever, of those who are still there. */
export function countTold(db: Database, offerId: number): number {
  return prepare<{ n: number }>(
    db, 'SELECT count(DISTINCT person_id) AS n FROM waits WHERE offer_id = ? AND told_at IS NOT NULL',
  ).get(offerId)!.n
}

/** What somebody waits for, with their place in the line. */
export function waitsOfPerson(db: Database, personId: number): { offerId: number, since: Instant, place: number }[] {
  return prepare<{ offerId: number, since: Instant, place: number }>(db, `
    SELECT w.offer_id AS offerId, w.confirmed_at AS since,
      (SELECT count(*) FROM waits o
        WHERE o.offer_id = w.offer_id AND o.confirmed_at IS NOT NULL AND o.told_at IS NULL AND o.ended_at IS NULL
        AND (o.confirmed_at, o.id) <= (w.confirmed_at, w.id)) AS place
    FROM waits w WHERE w.person_id = ? AND w.confirmed_at IS NOT NULL AND w.told_at IS NULL AND w.ended_at IS NULL
      ORDER BY w.offer_id`).all(personId)
}

/** Offers for which somebody waits, with how many do. */
export function waitingByOffer(db: Database): { offerId: number, people: number }[] {
  return prepare<{ offerId: number, people: number }>(
    db, `SELECT offer_id AS offerId, count(*) AS people FROM waits WHERE ${IN_LINE} GROUP BY offer_id ORDER BY offer_id`,
  ).all()
}

/** Null where only something that happens can open it. */
export function setOpeningDue(db: Database, offerId: number, at: Instant | null): void {
  prepare(db, 'UPDATE offers SET opening_due_at = ? WHERE id = ?').run(at, offerId)
}

/** Something has changed by which it may open: it is looked at at once. Nothing is to be done where nobody waits. */
export function checkOpeningAt(db: Database, offerId: number, at: Instant): void {
  prepare(
    db, `UPDATE offers SET opening_due_at = ? WHERE id = ? AND EXISTS (SELECT 1 FROM waits WHERE offer_id = offers.id AND ${IN_LINE})`,
  ).run(at, offerId)
}

export function offersToOpen(db: Database, at: Instant): number[] {
  return prepare<{ id: number }>(db, 'SELECT id FROM offers WHERE opening_due_at <= ? ORDER BY opening_due_at, id').all(at)
    .map(row => row.id)
}
