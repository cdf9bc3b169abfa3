/** Second sendings of broadcasts: to whom, by which send. */
import type { AgainSpec } from '#core/broadcast/again'
import type { Instant } from '#core/time/zone'
import type { Database } from './connection'
import { prepare } from './connection'
import type { SendState } from './sends'

export interface SecondSendingRow {
  sendId: number
  broadcastId: number
  itemId: string
  spec: AgainSpec
  state: Exclude<SendState, 'open'>
  dueAt: Instant
  heldUntilAt: Instant | null
}

const SECOND = `
  SELECT a.send_id AS sendId, a.broadcast_id AS broadcastId, s.item_id AS itemId, a.spec, s.state, s.due_at AS dueAt,
    s.held_until_at AS heldUntilAt
  FROM second_sendings a JOIN sends s ON s.id = a.send_id`
type Raw = Omit<SecondSendingRow, 'spec'> & { spec: string }
const parse = (row: Raw): SecondSendingRow => ({ ...row, spec: JSON.parse(row.spec) as AgainSpec })

/** In the order in which they were made. */
export const secondSendingsOf = (db: Database, broadcastId: number): SecondSendingRow[] =>
  prepare<Raw>(db, `${SECOND} WHERE a.broadcast_id = ? ORDER BY a.send_id`).all(broadcastId).map(parse)

/** Or what it is to be instead. */
export function insertSecondSending(
  db: Database, { sendId, broadcastId, spec }: Pick<SecondSendingRow, 'sendId' | 'broadcastId' | 'spec'>,
): void {
  prepare(db, 'INSERT OR REPLACE INTO second_sendings (send_id, broadcast_id, spec) VALUES (?, ?, ?)')
    .run(sendId, broadcastId, JSON.stringify(spec))
}

export const deleteSecondSending = (db: Database, sendId: number): unknown =>
  prepare(db, 'DELETE FROM second_sendings WHERE send_id = ?').run(sendId)

/** Somebody has been sent, or is just being sent, another second one of the same. */
export const hasAnotherSecond = (
  db: Database, { parentId, personId, outboxId }: { parentId: number, personId: number, outboxId: number },
): boolean => prepare(db, `
  SELECT 1 FROM outbox o JOIN sends s ON s.id = o.send_id WHERE o.person_id = ? AND s.parent_id = ? AND o.id <> ?
    AND o.status IN ('handing over', 'handed over', 'may have arrived')`).get(personId, parentId, outboxId) !== undefined
