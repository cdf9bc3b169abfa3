/** What its owner has put away. */
import type { Thing } from '#core/rules/rule'
import type { Instant } from '#core/time/zone'
import type { Database } from './connection'
import { q } from './connection'

export const allArchived = (db: Database): Thing[] => q<Thing>(db, 'SELECT kind, thing_id AS id FROM archived ORDER BY kind, thing_id').all()

export function insertArchived(db: Database, { kind, id }: Thing, at: Instant): void {
  q(db, 'INSERT OR IGNORE INTO archived (kind, thing_id, at) VALUES (?, ?, ?)').run(kind, id, at)
}

/** Brought back; does nothing if it was not put away. */
export function deleteArchived(db: Database, { kind, id }: Thing): void {
  q(db, 'DELETE FROM archived WHERE kind = ? AND thing_id = ?').run(kind, id)
}
