/** Emails as they were written earlier. */
import type { MessageContent } from '#core/message/content'
import type { SendOf } from '#core/sending/kinds'
import type { Instant } from '#core/time/zone'
import type { Database } from './connection'
import { prepare } from './connection'

const OF = 'kind = @kind AND owner_id = @ownerId AND item_id = @itemId'
const only = ({ kind, ownerId, itemId }: SendOf) => ({ kind, ownerId, itemId })

/** Null for none. */
export const latestEarlier = (db: Database, of: SendOf): Instant | null =>
  prepare<{ at: Instant | null }>(db, `SELECT max(stood_until_at) AS at FROM earlier_emails WHERE ${OF}`).get(only(of))!.at

/** Keeps it, and of all of this email the newest `most`. */
export function keepEarlier(db: Database, of: SendOf, content: MessageContent, at: Instant, most: number): void {
  prepare(db, `
    INSERT INTO earlier_emails (kind, owner_id, item_id, stood_until_at, content)
    VALUES (@kind, @ownerId, @itemId, @at, @content)`).run({ ...only(of), at, content: JSON.stringify(content) })
  prepare(db, `
    DELETE FROM earlier_emails
    WHERE ${OF} AND id NOT IN (SELECT id FROM earlier_emails WHERE ${OF} ORDER BY stood_until_at DESC, id DESC LIMIT @most)`)
    .run({ ...only(of), most })
}

/** The newest first. */
export const earlierOf = (db: Database, of: SendOf): { id: number, at: Instant }[] =>
  prepare<{ id: number, at: Instant }>(db, `
    SELECT id, stood_until_at AS at FROM earlier_emails WHERE ${OF} ORDER BY stood_until_at DESC, id DESC`).all(only(of))

export function findEarlier(db: Database, id: number): { at: Instant, content: MessageContent } | undefined {
  const row = prepare<{ at: Instant, content: string }>(db, 'SELECT stood_until_at AS at, content FROM earlier_emails WHERE id = ?').get(id)
  return row && { at: row.at, content: JSON.parse(row.content) as MessageContent }
}

/** Of an owner that is gone. */
export function forgetEarlier(db: Database, { kind, ownerId }: Pick<SendOf, 'kind' | 'ownerId'>): void {
  prepare(db, 'DELETE FROM earlier_emails WHERE kind = ? AND owner_id = ?').run(kind, ownerId)
}
