/** What emails people, or their owner. */
import type { Audience } from '#core/sending/audience'
import { kindsThat, type SendKind, type SendOf } from '#core/sending/kinds'
import type { SendTiming } from '#core/sending/timing'
import type { Instant } from '#core/time/zone'
import type { Database } from './connection'
import { prepare } from './connection'
import { keep, keepSteady } from './kept'
import type { Due } from './dueKind'

export const SENDS_DUE: Due = { rows: `sends WHERE state = 'scheduled' AND held_until_at IS NULL`, at: 'due_at' }

export function findSendId(db: Database, { kind, ownerId, itemId }: SendOf): number | undefined {
  return prepare<{ id: number }>(db, 'SELECT id FROM sends WHERE kind = ? AND owner_id = ? AND item_id = ?').get(kind, ownerId, itemId)?.id
}

/** Of one whose emails come one by one: it stands open from the first of them on. */
export function openSendId(db: Database, of: SendOf): number {
  // Once it is there it stays, and keeps its number.
  return keep(db, [], `send ${of.kind} ${of.ownerId} ${of.itemId}`, () => findSendId(db, of)
    ?? Number(
      prepare(db, 'INSERT INTO sends (kind, owner_id, item_id) VALUES (?, ?, ?)').run(of.kind, of.ownerId, of.itemId).lastInsertRowid,
    ))
}

/** The kinds of which something is true, for SQL: `kind IN (…)`. */
export const kindsInSql = (is: (kind: SendKind) => boolean): string => kindsThat(is).map(name => `'${name}'`).join(', ')

/* What goes to an audience */

export type SendState = 'open' | 'scheduled' | 'sending' | 'paused' | 'stopped' | 'sent'

export interface SendRow extends SendOf {
  id: number
  /** These are null for what stands open. */
  messageId: number | null
  listId: number | null
  audience: Audience | null
  dueAt: Instant | null
  /** Null for all at once as it begins. */
  timing: SendTiming | null
  /** By the computer's clock: it can be taken back until then, and does not begin before. */
  heldUntilAt: Instant | null
  /** Of which it is a second sending. */
  parentId: number | null
  state: SendState
  /** Who does it, once it has begun: how far it has come stands there. */
  taskId: number | null
}

type Raw = Omit<SendRow, 'audience' | 'timing'> & { audience: string | null, timing: string | null }

const SEND = `SELECT id, kind, owner_id AS ownerId, item_id AS itemId, message_id AS messageId, list_id AS listId, audience,
  due_at AS dueAt,
  timing, held_until_at AS heldUntilAt, parent_id AS parentId, state, task_id AS taskId FROM sends`

const parse = (row: Raw): SendRow => ({
  ...row, audience: row.audience === null ? null : JSON.parse(row.audience) as Audience,
  timing: row.timing === null ? null : JSON.parse(row.timing) as SendTiming,
})

export const findSendById = (db: Database, id: number): SendRow | undefined => keepSteady(db, `send ${id}`, () => {
  const row = prepare<Raw>(db, `${SEND} WHERE id = ?`).get(id)
  return row && parse(row)
})

export function findSend(db: Database, of: SendOf): SendRow | undefined {
  const id = findSendId(db, of)
  return id === undefined ? undefined : findSendById(db, id)
}

/** Whether its readers get it by their own clocks. That is settled before there is any email of it. */
export const goesByReaders = (db: Database, id: number): boolean => keepSteady(db, `timing of ${id}`, () =>
  prepare<{ n: number }>(
    db, `SELECT coalesce(json_extract(timing, '$.clock') IS NOT NULL, 0) AS n FROM sends WHERE id = ?`
  ).get(id)?.n === 1)

/** The emails `o` of send `@sendId`, read by this index and no larger one. More conditions follow with AND. */
export const emailsOfSend = (index: 'outbox_sent' | 'outbox_held_back'): string =>
  `sends s JOIN outbox o INDEXED BY ${index} ON o.kind = s.kind AND o.owner_id = s.owner_id AND o.item_id = s.item_id WHERE s.id = @sendId`

/** Emails that are claimed; never more than a few. More conditions follow with AND. */
export const CLAIMED = `outbox INDEXED BY outbox_busy WHERE status IN ('leased', 'handing over')`

export interface NewSendRow extends SendOf {
  messageId: number, listId: number, audience: Audience, dueAt: Instant, timing?: SendTiming | null, heldUntilAt?: Instant | null,
  parentId?: number | null
}

/** Throws if there is one already: the same is sent to an audience once. */
export function insertSend(db: Database, { kind, ownerId, itemId, ...row }: NewSendRow): number {
  const id = Number(prepare(db, `
    INSERT INTO sends (kind, owner_id, item_id, message_id, list_id, audience, due_at, state) VALUES (?, ?, ?, ?, ?, ?, ?, 'scheduled')`)
    .run(kind, ownerId, itemId, row.messageId, row.listId, JSON.stringify(row.audience), row.dueAt).lastInsertRowid)
  updateSend(db, id, row)
  return id
}

/** While it has not begun it can become another. */
export function updateSend(db: Database, id: number, row: Omit<NewSendRow, keyof SendOf>): void {
  const { messageId, listId, audience, dueAt, timing = null, heldUntilAt = null, parentId = null } = row
  const changed = prepare(db, `UPDATE sends SET message_id = ?, list_id = ?, audience = ?, due_at = ?, timing = ?, held_until_at = ?,
      parent_id = ? WHERE id = ? AND state = 'scheduled'`)
    .run(messageId, listId, JSON.stringify(audience), dueAt, timing && JSON.stringify(timing), heldUntilAt, parentId, id).changes
  if (changed !== 1) throw new Error(`Send ${id} has begun`)
}

/** One that has not begun; nothing of it is left. */
export const deleteSend = (db: Database, id: number): unknown =>
  prepare(db, `DELETE FROM sends WHERE id = ? AND state = 'scheduled'`).run(id)

/** Those that may begin at `at`. */
export function dueSends(db: Database, at: Instant): SendRow[] {
  return prepare<Raw>(
    db, `${SEND} WHERE state = 'scheduled' AND held_until_at IS NULL AND due_at <= ? ORDER BY due_at, id`
  ).all(at).map(parse)
}

/** Those that are to begin by then, also what can still be taken back. */
export function scheduledSends(db: Database, until: Instant): SendRow[] {
  return prepare<Raw>(db, `${SEND} WHERE state = 'scheduled' AND due_at <= ? ORDER BY due_at, id`).all(until).map(parse)
}

/** What could be taken back can no longer be: by the computer's clock, or by the workspace's, which came that much further. */
export function releaseHeldSends(db: Database, systemNow: Instant, now: Instant, held: number): number {
  return prepare(db, `UPDATE sends SET held_until_at = NULL
    WHERE held_until_at IS NOT NULL AND state = 'scheduled' AND (held_until_at <= ? OR due_at + ? <= ?)`).run(systemNow, held, now).changes
}

/** When the next of them can no longer be taken back; by the computer's clock. */
export const nextHeldUntil = (db: Database): Instant | null =>
  prepare<{ at: Instant | null }>(db, 'SELECT min(held_until_at) AS at FROM sends WHERE held_until_at IS NOT NULL').get()!.at

export function setSendState(db: Database, id: number, state: Exclude<SendState, 'open' | 'scheduled'>): void {
  prepare(db, 'UPDATE sends SET state = ? WHERE id = ?').run(state, id)
}

/** It has begun: its people are put down and its emails queued by that task. */
export function beginSend(db: Database, id: number, taskId: number): void {
  prepare(db, `UPDATE sends SET state = 'sending', task_id = ? WHERE id = ?`).run(taskId, id)
}
