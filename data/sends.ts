/** What emails people, or their owner. */
import type { Audience } from '#core/sending/audience'
import { kindsThat, type SendKind, type SendOf } from '#core/sending/kinds'
import type { Instant } from '#core/time/zone'
import type { Database } from './connection'
import { prepare } from './connection'
import { keep } from './kept'
import type { Due } from './dueKind'

export const SENDS_DUE: Due = { rows: `sends WHERE state = 'scheduled'`, at: 'due_at' }

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
  /** These four are null for what stands open. */
  messageId: number | null
  listId: number | null
  audience: Audience | null
  dueAt: Instant | null
  state: SendState
  /** Who does it, once it has begun: how far it has come stands there. */
  taskId: number | null
}

type Raw = Omit<SendRow, 'audience'> & { audience: string | null }

const SEND = `SELECT id, kind, owner_id AS ownerId, item_id AS itemId, message_id AS messageId, list_id AS listId, audience, due_at AS dueAt, state,
  task_id AS taskId FROM sends`

const parse = (row: Raw): SendRow => ({ ...row, audience: row.audience === null ? null : JSON.parse(row.audience) as Audience })

export function findSendById(db: Database, id: number): SendRow | undefined {
  const row = prepare<Raw>(db, `${SEND} WHERE id = ?`).get(id)
  return row && parse(row)
}

export function findSend(db: Database, of: SendOf): SendRow | undefined {
  const id = findSendId(db, of)
  return id === undefined ? undefined : findSendById(db, id)
}

/** Throws if there is one already: the same is sent to an audience once. */
export function insertSend(db: Database, row: SendOf & { messageId: number, listId: number, audience: Audience, dueAt: Instant }): number {
  return Number(prepare(db, `
    INSERT INTO sends (kind, owner_id, item_id, message_id, list_id, audience, due_at, state) VALUES (?, ?, ?, ?, ?, ?, ?, 'scheduled')`)
    .run(row.kind, row.ownerId, row.itemId, row.messageId, row.listId, JSON.stringify(row.audience), row.dueAt).lastInsertRowid)
}

export function dueSends(db: Database, at: Instant): SendRow[] {
  return prepare<Raw>(db, `${SEND} WHERE state = 'scheduled' AND due_at <= ? ORDER BY due_at, id`).all(at).map(parse)
}

export function setSendState(db: Database, id: number, state: Exclude<SendState, 'open' | 'scheduled'>): void {
  prepare(db, 'UPDATE sends SET state = ? WHERE id = ?').run(state, id)
}

/** It has begun: its people are put down and its emails queued by that task. */
export function beginSend(db: Database, id: number, taskId: number): void {
  prepare(db, `UPDATE sends SET state = 'sending', task_id = ? WHERE id = ?`).run(taskId, id)
}
