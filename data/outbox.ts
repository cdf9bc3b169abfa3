/** Emails on their way out. Every change of a leased row names its owner and expects to change one row. */
import type { HeldBackReason } from '#core/sending/reasons'
import { kindOf, type EmailKind, type OwnerMailKind, type SendKindName, type SendOf, type WhichSend } from '#core/sending/kinds'
import type { Instant } from '#core/time/zone'
import type { Database } from './connection'
import { prepare } from './connection'
import { CLAIMED, findSendId, kindsInSql, openSendId } from './sends'
import type { Due } from './dueKind'

export const EMAILS_DUE: Due = { rows: `outbox WHERE status IN ('queued', 'failed') AND go_at IS NOT NULL`, at: 'go_at' }

export type OutboxStatus = 'queued' | 'leased' | 'handing over' | 'handed over' | 'failed' | 'may have arrived' | 'held back' | 'withdrawn'

/** What is known of any email on its way out. */
interface OnItsWay {
  id: number
  sendId: number
  plannedAt: Instant
  status: OutboxStatus
  goAt: Instant | null
  leaseOwner: string | null
  tries: number
  repeats: number
  firstTryAt: Instant | null
  reason: string | null
  /** Until when it waited for its turn; null where it never had to. */
  turnAt: Instant | null
  messageRef: string | null
  handedOverAt: Instant | null
  causeId: number
}

/** What is told to the owner: to an address of theirs, without list, caps or tracking. */
export interface OwnerMail extends OnItsWay {
  kind: OwnerMailKind
  toAddress: string
  occasion: string
}

export const isOwnerMail = (row: OutboxRow | OwnerMail): row is OwnerMail => kindOf(row.kind).to === 'address'

/** An email to a subscriber. */
export interface OutboxRow extends OnItsWay {
  kind: EmailKind
  /** The course, the page, the offer or the house rule it comes of. */
  ownerId: number
  personId: number
  itemId: string
  /** What brought it to this reader; with the send and the reader it is one of a kind (core/sending/occasion.ts). */
  occasion: string
  /** The number of that. */
  occasionId: number
  /** Whether it is sent once more for the same reason. */
  isAgain: 0 | 1
  messageId: number
  enrolmentId: number | null
  listId: number
  askedFor: 0 | 1
  /** The event of its sending, which is what a reader's opening and clicking comes from. */
  sentEventId: number | null
  openedAt: Instant | null
  clickedAt: Instant | null
  leftAt: Instant | null
}

const COLUMNS = `id, send_id AS sendId, kind, owner_id AS ownerId, person_id AS personId, item_id AS itemId, occasion, CAST(occasion AS INTEGER) AS occasionId,
  instr(occasion, '-') > 0 AS isAgain, message_id AS messageId, enrolment_id AS enrolmentId, list_id AS listId, asked_for AS askedFor,
  cause_id AS causeId, planned_at AS plannedAt, status, go_at AS goAt, lease_owner AS leaseOwner, tries, repeats, first_try_at AS firstTryAt,
  reason, turn_at AS turnAt, message_ref AS messageRef, handed_over_at AS handedOverAt, sent_event_id AS sentEventId, opened_at AS openedAt,
  clicked_at AS clickedAt, left_at AS leftAt`

export type NewEmail = Pick<OutboxRow, 'kind' | 'ownerId' | 'personId' | 'itemId' | 'occasion' | 'messageId' | 'listId' | 'askedFor'
  | 'causeId' | 'plannedAt'>
  & { /** The journey it belongs to, where it does. */ enrolmentId?: number | null }

/** Throws if an email with this key exists: the unique key is what keeps anybody from being sent one twice. */
export function insertEmail(db: Database, row: NewEmail): number {
  return Number(prepare(db, `
    INSERT INTO outbox (send_id,
      kind, owner_id, item_id, person_id, occasion, message_id, enrolment_id, list_id, asked_for, cause_id, planned_at, go_at)
    VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`).run(
    openSendId(db, row), row.kind, row.ownerId, row.itemId, row.personId, row.occasion, row.messageId, row.enrolmentId ?? null, row.listId,
    row.askedFor, row.causeId, row.plannedAt, row.plannedAt).lastInsertRowid)
}

/** An email to a subscriber. */
export function findEmail(db: Database, id: number): OutboxRow | undefined {
  return prepare<OutboxRow>(db, `SELECT ${COLUMNS} FROM outbox WHERE id = ? AND person_id IS NOT NULL`).get(id)
}

/** Any email as it stands now. */
export function findInOutbox(db: Database, id: number): OutboxRow | OwnerMail | undefined {
  return prepare<OutboxRow | OwnerMail>(db, `SELECT ${COLUMNS}, to_address AS toAddress FROM outbox WHERE id = ?`).get(id)
}

/** To a plain address of the owner's. Returns its id. */
export function insertOwnerMail(db: Database, { kind, toAddress, occasion, causeId, plannedAt }: {
  kind: OwnerMailKind, toAddress: string, occasion: string, causeId: number, plannedAt: Instant,
}): number {
  // Each kind is one send for good.
  const send = { kind, ownerId: 0, itemId: kind }
  return Number(prepare(db, `
    INSERT INTO outbox (send_id, kind, owner_id, item_id, to_address, occasion, asked_for, cause_id, planned_at, go_at)
    VALUES (?, ?, ?, ?, ?, ?, 0, ?, ?, ?)`).run(
    openSendId(db, send), send.kind, send.ownerId, send.itemId, toAddress, occasion, causeId, plannedAt, plannedAt).lastInsertRowid)
}

/** One that waits and has not been tried yet: more can be gathered into it. */
export function ownerMailWaiting(db: Database, kind: OwnerMailKind, toAddress: string): number | null {
  return prepare<{ id: number }>(db, `
    SELECT id FROM outbox WHERE kind = ? AND status = 'queued' AND tries = 0 AND to_address = ?
    ORDER BY id LIMIT 1`).get(kind, toAddress)?.id ?? null
}

/** The emails of one send to one reader for one reason: the first, and those after it. */
export function emailsOfOccasion(
  db: Database, { kind, ownerId, itemId, personId, occasionId }: Pick<OutboxRow, 'kind' | 'ownerId' | 'itemId' | 'personId' | 'occasionId'>,
): OutboxRow[] {
  return prepare<OutboxRow>(db, `
    SELECT ${COLUMNS} FROM outbox WHERE send_id = ? AND person_id = ? AND CAST(occasion AS INTEGER) = ?
    ORDER BY id`).all(findSendId(db, { kind, ownerId, itemId }) ?? null, personId, occasionId)
}

/** Everything that was decided for someone, the latest first. */
export function emailsOfPerson(db: Database, personId: number): (OutboxRow & { workingTitle: string, listName: string })[] {
  return prepare<OutboxRow & { workingTitle: string, listName: string }>(db, `
    SELECT o.*, m.working_title AS workingTitle, coalesce(l.former_name, l.name) AS listName
    FROM (SELECT ${COLUMNS} FROM outbox WHERE person_id = ?) o
    JOIN messages m ON m.id = o.messageId JOIN lists l ON l.id = o.listId
    ORDER BY o.plannedAt DESC, o.id DESC`).all(personId)
}

/** Why the latest email of each of these people was held back: of any send, of those of one owner, or of one. */
export function latestHeldBack(
  db: Database, personIds: readonly number[], of: WhichSend | null,
): { personId: number, reason: string | null, listName: string }[] {
  return prepare<{ personId: number, reason: string | null, listName: string }>(db, `
    SELECT o.person_id AS personId, o.reason, coalesce(l.former_name, l.name) AS listName, max(o.id)
    FROM outbox o JOIN lists l ON l.id = o.list_id
    WHERE o.person_id IN (SELECT value FROM json_each(@ids)) AND o.status = 'held back'
      AND (@kind IS NULL OR (o.kind = @kind AND o.owner_id = @ownerId)) AND (@itemId IS NULL OR o.item_id = @itemId)
    GROUP BY o.person_id`).all({
      ids: JSON.stringify(personIds), kind: of?.kind ?? null, ownerId: of?.ownerId ?? null, itemId: of?.itemId ?? null,
    })
}

/** An earlier email of the same journey still waits to leave: nobody reads the second letter before the first. */
const EARLIER = `e.enrolment_id = outbox.enrolment_id AND (e.planned_at, e.id) < (outbox.planned_at, outbox.id)
  AND (e.status IN ('queued', 'leased', 'handing over') OR (e.status = 'failed' AND e.go_at IS NOT NULL))`
const IS_SET_ASIDE = `e.status = 'queued' AND e.go_at IS NULL AND e.reason IS NOT NULL`
const OVERTAKES = `(enrolment_id IS NOT NULL AND EXISTS (SELECT 1 FROM outbox e WHERE ${EARLIER}))`
const MAY_GO = `status IN ('queued', 'failed') AND go_at IS NOT NULL AND go_at <= ?`
/** The emails of courses that come next. With this many, hardly ever do all of them have to wait for earlier ones. */
const FIRST_OF_COURSES = `id IN (SELECT id FROM outbox INDEXED BY outbox_go_of_course
  WHERE enrolment_id IS NOT NULL AND ${MAY_GO} ORDER BY go_at, id LIMIT 500)`

/**
 * Claims up to `limit` emails that may go at `at`: asked-for mail first, then
 * by time, the owner's own last. One that would overtake an earlier email of
 * its journey waits as long as that one does, and for what that one waits for.
 * The lease runs by the system clock, and is to be renewed.
 */
export function leaseEmails(db: Database, owner: string, at: Instant, leaseUntilAt: Instant, limit: number): (OutboxRow | OwnerMail)[] {
  // Not looked at again before the earlier one can have gone.
  prepare(db, `UPDATE outbox SET go_at = (SELECT max(e.go_at) FROM outbox e WHERE ${EARLIER}) WHERE ${FIRST_OF_COURSES}
    AND EXISTS (SELECT 1 FROM outbox e WHERE ${EARLIER} AND e.go_at > ?)`).run(at, at)
  // Nor before the earlier one that is set aside: they are set going again together.
  prepare(db, `UPDATE outbox SET status = 'queued', go_at = NULL,
      reason = (SELECT e.reason FROM outbox e WHERE ${EARLIER} AND ${IS_SET_ASIDE} ORDER BY e.planned_at, e.id LIMIT 1)
    WHERE ${FIRST_OF_COURSES} AND EXISTS (SELECT 1 FROM outbox e WHERE ${EARLIER} AND ${IS_SET_ASIDE})`).run(at)
  const leased: (OutboxRow | OwnerMail)[] = []
  for (const which of ['asked_for = 1', 'asked_for = 0 AND person_id IS NOT NULL', 'person_id IS NULL']) {
    if (leased.length >= limit) break
    leased.push(...prepare<OutboxRow | OwnerMail>(db, `
      UPDATE outbox SET status = 'leased', lease_owner = ?, lease_until_at = ?
      WHERE id IN (SELECT id FROM outbox WHERE ${which} AND ${MAY_GO} AND NOT ${OVERTAKES} ORDER BY go_at, id LIMIT ?)
      RETURNING ${COLUMNS}, to_address AS toAddress`).all(owner, leaseUntilAt, at, limit - leased.length)
      .sort((a, b) => a.goAt! - b.goAt! || a.id - b.id))
  }
  return leased
}

/** The recipient of an email that is claimed and not being handed over; null if it is no longer ours. */
export const leasedFor = (db: Database, id: number, owner: string): number | null =>
  prepare<{ personId: number }>(db, `SELECT person_id AS personId FROM outbox WHERE id = ? AND status = 'leased' AND lease_owner = ?`)
    .get(id, owner)?.personId ?? null

/** False if it is not ours any more. */
export function renewLease(db: Database, id: number, owner: string, untilAt: Instant): boolean {
  return prepare(db, `UPDATE outbox SET lease_until_at = ? WHERE id = ? AND lease_owner = ? AND status IN ('leased', 'handing over')`).run(
    untilAt, id, owner,
  ).changes === 1
}

/** Rows whose lease ran out: their holder met something it did not come back from. By the system clock. */
export function expiredLeases(db: Database, systemNow: Instant): (OutboxRow | OwnerMail)[] {
  return prepare<OutboxRow | OwnerMail>(db, `
    SELECT ${COLUMNS}, to_address AS toAddress FROM outbox WHERE status IN ('leased', 'handing over') AND lease_until_at < ?
    ORDER BY id`).all(systemNow)
}

/** Throws unless exactly one row was changed: otherwise another process has taken over the lease. */
export function expectOne(changes: number, id: number, what: string): void {
  if (changes !== 1) throw new Error(`Email ${id} is no longer ours to ${what}: its lease was taken over`)
}

/** Its wording as it leaves, where that is made with something else than when it was planned. */
export function setMessage(db: Database, id: number, messageId: number): void {
  prepare(db, 'UPDATE outbox SET message_id = ? WHERE id = ?').run(messageId, id)
}

/** The mark before the email leaves. False if it is not ours any more, or was withdrawn meanwhile. */
export function markHandingOver(db: Database, id: number, owner: string, messageRef: string, at: Instant): boolean {
  return prepare(db, `
    UPDATE outbox SET status = 'handing over', message_ref = ?, tries = tries + 1, first_try_at = coalesce(first_try_at, ?)
    WHERE id = ? AND status = 'leased' AND lease_owner = ?`).run(messageRef, at, id, owner).changes === 1
}

export function markHandedOver(db: Database, id: number, owner: string, at: Instant, sentEventId: number | null): void {
  expectOne(prepare(db, `UPDATE outbox SET status = 'handed over', handed_over_at = ?, sent_event_id = ?, go_at = NULL, lease_owner = NULL,
    lease_until_at = NULL, reason = NULL
    WHERE id = ? AND status = 'handing over' AND lease_owner = ?`).run(at, sentEventId, id, owner).changes, id, 'mark as handed over')
}

/** It was tried as often as it may be, and each time may have arrived: final, and counted as sent. */
export function markMayHaveArrived(db: Database, id: number, at: Instant, sentEventId: number | null, reason: string): void {
  expectOne(prepare(db, `UPDATE outbox SET status = 'may have arrived', handed_over_at = ?, sent_event_id = ?, go_at = NULL,
    lease_owner = NULL, lease_until_at = NULL, reason = ?
    WHERE id = ? AND status = 'handing over'`).run(at, sentEventId, reason, id).changes, id, 'mark as perhaps arrived')
}

/** Null for `goAt` gives the email up for good. */
export function markFailed(db: Database, id: number, owner: string, reason: string, goAt: Instant | null): void {
  expectOne(prepare(db, `UPDATE outbox SET status = 'failed', go_at = ?, reason = ?, lease_owner = NULL, lease_until_at = NULL
    WHERE id = ? AND status IN ('leased', 'handing over') AND lease_owner = ?`).run(goAt, reason, id, owner).changes, id, 'mark as failed')
}

export function markHeldBack(db: Database, id: number, owner: string, reason: HeldBackReason): void {
  expectOne(prepare(db, `UPDATE outbox SET status = 'held back', go_at = NULL, reason = ?, lease_owner = NULL, lease_until_at = NULL
    WHERE id = ? AND status = 'leased' AND lease_owner = ?`).run(reason, id, owner).changes, id, 'hold back')
}

/** It waits until then; `reason` says why where it is too many for its reader, and its plan is moved with it. */
export function putOff(db: Database, id: number, owner: string, goAt: Instant, reason: HeldBackReason | null = null): void {
  expectOne(prepare(db, `
    UPDATE outbox SET status = 'queued', go_at = @goAt, planned_at = CASE WHEN @reason IS NULL THEN planned_at ELSE @goAt END,
      reason = @reason, lease_owner = NULL, lease_until_at = NULL
    WHERE id = @id AND status = 'leased' AND lease_owner = @owner`).run({ id, owner, goAt, reason }).changes, id, 'put off')
}

/** The same for one that was only just planned. */
export function postpone(db: Database, id: number, goAt: Instant, reason: HeldBackReason): void {
  prepare(db, `UPDATE outbox SET go_at = @goAt, planned_at = @goAt, reason = @reason WHERE id = @id AND status = 'queued'`).run({
    id, goAt, reason,
  })
}

/** A lease given back untouched; or not before `goAt`. */
export function giveBack(db: Database, id: number, owner: string, goAt: Instant | null = null): void {
  prepare(db, `
    UPDATE outbox SET status = 'queued', go_at = coalesce(?, go_at), lease_owner = NULL, lease_until_at = NULL WHERE id = ?
    AND status = 'leased' AND lease_owner = ?`).run(goAt, id, owner)
}

/** Some of what has not begun to be handed over of a send: it does not go any more. Returns whose they were. */
export function withdrawSend(db: Database, sendId: number, reason: string, limit: number): { id: number, personId: number }[] {
  return prepare<{ id: number, personId: number }>(db, `
    UPDATE outbox SET status = 'withdrawn', go_at = NULL, reason = @reason, lease_owner = NULL, lease_until_at = NULL
    WHERE id IN (
      SELECT id FROM outbox WHERE send_id = @sendId AND status IN ('queued', 'failed') AND (status = 'queued' OR go_at IS NOT NULL)
      UNION ALL SELECT id FROM ${CLAIMED} AND send_id = @sendId AND status = 'leased'
      LIMIT @limit)
    RETURNING id, person_id AS personId`).all({ reason, sendId, limit })
}

/** One that was only just decided, and is not to go. */
export function holdBackAtOnce(db: Database, id: number, reason: HeldBackReason): void {
  prepare(db, `UPDATE outbox SET status = 'held back', go_at = NULL, reason = ? WHERE id = ? AND status = 'queued'`).run(reason, id)
}

/** An email that may have left when the line broke or the engine died: it goes again, with the same Message-ID, and is counted. */
export function queueRepeat(db: Database, id: number, goAt: Instant, reason: string): void {
  prepare(db, `UPDATE outbox SET status = 'failed', go_at = ?, reason = ?, repeats = repeats + 1, lease_owner = NULL, lease_until_at = NULL
    WHERE id = ? AND status = 'handing over'`).run(goAt, reason, id)
}

/** Rows that some other owner held when it stopped being alive. */
export function orphans(db: Database, owner: string): (OutboxRow | OwnerMail)[] {
  return prepare<OutboxRow | OwnerMail>(db, `
    SELECT ${COLUMNS}, to_address AS toAddress FROM outbox WHERE status IN ('leased', 'handing over') AND lease_owner IS NOT ?
    ORDER BY id`).all(owner)
}

/** A row that nobody holds any more goes back to where it waited, not before `goAt`. */
export function takeBack(db: Database, id: number, goAt: Instant | null = null): void {
  prepare(db, `
    UPDATE outbox SET status = 'queued', go_at = coalesce(?, go_at), lease_owner = NULL, lease_until_at = NULL WHERE id = ?
    AND status IN ('leased', 'handing over')`).run(goAt, id)
}

/**
 * Everything that has not begun to be handed over, of one person and perhaps of one list, one journey, one kind, owner or occasion. Returns
 * the ids. What outlives leaving goes all the same to somebody who merely leaves.
 */
export function withdraw(
  db: Database, personId: number,
  only: { listId?: number, enrolmentId?: number, kinds?: readonly SendKindName[], ownerId?: number, occasionId?: number }, reason: string,
): number[] {
  return prepare<{ id: number }>(db, `
    UPDATE outbox SET status = 'withdrawn', go_at = NULL, reason = @reason, lease_owner = NULL, lease_until_at = NULL
    WHERE person_id = @personId AND (status IN ('queued', 'leased') OR (status = 'failed' AND go_at IS NOT NULL))
      AND (kind NOT IN (${kindsInSql(kind => kind.outlivesLeaving === true)}) OR @reason IN ('bounced', 'complained', 'erased'))
      AND (@listId IS NULL OR list_id = @listId) AND (@enrolmentId IS NULL OR enrolment_id = @enrolmentId)
      AND (@kinds IS NULL OR kind IN (SELECT value FROM json_each(@kinds))) AND (@ownerId IS NULL OR owner_id = @ownerId)
      AND (@occasionId IS NULL OR CAST(occasion AS INTEGER) = @occasionId)
    RETURNING id`).all({
    personId, reason, listId: null, enrolmentId: null, ownerId: null, occasionId: null, ...only,
    kinds: only.kinds ? JSON.stringify(only.kinds) : null,
  }).map(row => row.id)
}

/** Problems with emails that Today reports, as SQL conditions on `o`: current ones, or of emails planned after `@since`. */
const TROUBLES = {
  waitingAgain: `o.status = 'failed' AND o.go_at IS NOT NULL`,
  givenUp: `o.status = 'failed' AND o.go_at IS NULL AND o.planned_at > @since`,
  repeated: 'o.repeats > 0 AND o.planned_at > @since',
  heldBack: `o.status = 'held back' AND o.planned_at > @since`,
}
export type OutboxTrouble = keyof typeof TROUBLES

/** How many emails have each problem, and how many people that affects. */
export function outboxTroubles(db: Database, since: Instant): Record<OutboxTrouble, { emails: number, people: number }> {
  const kinds = Object.entries(TROUBLES) as [OutboxTrouble, string][]
  const row = prepare<Record<string, number>>(db, `
    SELECT ${kinds.map(([name, sql]) => `count(CASE WHEN ${sql} THEN 1 END) AS ${name},
      count(DISTINCT CASE WHEN ${sql} THEN p.id END) AS ${name}People`).join(',\n      ')}
    FROM outbox o LEFT JOIN people p ON p.id = o.person_id AND p.gone IS NULL
    WHERE o.status IN ('failed', 'held back', 'may have arrived') OR o.repeats > 0`).get({ since })!
  return Object.fromEntries(kinds.map(([name]) => [name, { emails: row[name]!, people: row[`${name}People`]! }])) as
    Record<OutboxTrouble, { emails: number, people: number }>
}

/**
 * Emails that wait to go by `until`, of the kinds that are looked forward to, gathered by send and instant. Found by their time: the plus
 * keeps the database from reading all there ever was of each kind.
 */
export function emailsWaiting(db: Database, until: Instant): (SendOf & { at: Instant, people: number })[] {
  return prepare<SendOf & { at: Instant, people: number }>(db, `
    SELECT kind, owner_id AS ownerId, item_id AS itemId, go_at AS at, count(*) AS people
    FROM outbox WHERE status IN ('queued', 'failed') AND go_at IS NOT NULL AND go_at <= ?
      AND +kind IN (${kindsInSql(kind => kind.isForecast)})
    GROUP BY go_at, send_id`).all(until)
}

/** The same one by one, of those that are to go within a time; asked-for mail is not looked forward to. */
export function emailsWaitingFor(db: Database, from: Instant, until: Instant): (SendOf & { personId: number, at: Instant })[] {
  return prepare<SendOf & { personId: number, at: Instant }>(db, `
    SELECT kind, owner_id AS ownerId, item_id AS itemId, person_id AS personId, go_at AS at
    FROM outbox WHERE status IN ('queued', 'failed') AND go_at IS NOT NULL AND go_at >= ? AND go_at <= ? AND person_id IS NOT NULL
      AND +kind IN (${kindsInSql(kind => kind.rank !== null)})`).all(from, until)
}

/** How many emails were handed over, and how many of those people followed a link or read, of the kinds of which that is known; by time. */
export function sentBetween(db: Database, from: Instant, to: Instant): { sent: number, opened: number, clicked: number } {
  return prepare<{ sent: number, opened: number, clicked: number }>(db, `
    SELECT count(*) AS sent, count(opened_at) AS opened, count(clicked_at) AS clicked FROM outbox WHERE handed_over_at > ?
      AND handed_over_at <= ? AND +kind IN (${kindsInSql(kind => kind.isWatched)})`).get(from, to)!
}

/** How many emails of a kind were planned for someone after an instant; of one owner, or of all. */
export function plannedSince(db: Database, personId: number, kind: EmailKind, since: Instant, ownerId: number | null = null): number {
  return prepare<{ n: number }>(db, `
    SELECT count(*) AS n FROM outbox WHERE person_id = @personId AND kind = @kind AND planned_at > @since
      AND (@ownerId IS NULL OR owner_id = @ownerId)`).get({ personId, kind, since, ownerId })!.n
}
