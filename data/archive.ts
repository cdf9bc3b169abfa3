/** What its owner has put away. */
import type { Thing } from '#core/things'
import type { Instant } from '#core/time/zone'
import type { Database } from './connection'
import { prepare } from './connection'

export const allArchived = (db: Database): Thing[] =>
  prepare<Thing>(db, 'SELECT kind, thing_id AS id FROM archived ORDER BY kind, thing_id').all()

export function insertArchived(db: Database, { kind, id }: Thing, at: Instant): void {
  prepare(db, 'INSERT OR IGNORE INTO archived (kind, thing_id, at) VALUES (?, ?, ?)').run(kind, id, at)
}

/** Brought back; does nothing if it was not put away. */
export function deleteArchived(db: Database, { kind, id }: Thing): void {
  prepare(db, 'DELETE FROM archived WHERE kind = ? AND thing_id = ?').run(kind, id)
}
