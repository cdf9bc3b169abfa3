/** Taking out what is personal, and remembering without knowing whom. */
import type { Status } from '#core/people/status'
import type { Instant } from '#core/time/zone'
import type { Database } from './connection'
import { prepare } from './connection'

export function findPersonKey(db: Database, personId: number): string {
  return prepare<{ key: string }>(db, 'SELECT address_key AS key FROM people WHERE id = ?').get(personId)!.key
}

/** A later remembering of the same address counts. */
export function remember(db: Database, row: { digest: string, status: Status, at: Instant }): void {
  prepare(db, `
    INSERT INTO remembered (digest, status, at) VALUES (?, ?, ?) ON CONFLICT (digest) DO UPDATE
    SET status = excluded.status, at = excluded.at`).run(row.digest, row.status, row.at)
}

export function findRemembered(db: Database, digest: string): { status: Status, at: Instant } | undefined {
  return prepare<{ status: Status, at: Instant }>(db, 'SELECT status, at FROM remembered WHERE digest = ?').get(digest)
}

/** Rows of imports that were refused, or came in without a part, and name this address. */
export function forgetRefusedRows(db: Database, addressKey: string): void {
  prepare(db, 'UPDATE import_rows SET cells = NULL, address_key = NULL, problem = NULL WHERE address_key = ?').run(addressKey)
}

/** The keys of the addresses someone had before. */
export function formerKeys(db: Database, personId: number): string[] {
  return prepare<{ key: string }>(db, 'SELECT address_key AS key FROM former_addresses WHERE person_id = ? ORDER BY id').all(personId)
    .map(row => row.key)
}

export function isAnybodyRemembered(db: Database): boolean {
  return prepare(db, 'SELECT 1 FROM remembered LIMIT 1').get() !== undefined
}

const PERSONAL = [
  'DELETE FROM former_addresses WHERE person_id = ?',
  'DELETE FROM field_values WHERE person_id = ?',
  'DELETE FROM tag_holdings WHERE person_id = ?',
  'DELETE FROM list_members WHERE person_id = ?',
  'DELETE FROM scheduled_entries WHERE person_id = ?',
  'DELETE FROM invented_readers WHERE person_id = ?',
  `
    DELETE FROM event_personal
    WHERE event_id IN (SELECT id FROM events WHERE person_id IN (SELECT id FROM people WHERE ? IN (id, merged_into)))`,
  'DELETE FROM mailbox WHERE message_ref IN (SELECT message_ref FROM outbox WHERE person_id = ? AND message_ref IS NOT NULL)',
  'DELETE FROM filled_emails WHERE outbox_id IN (SELECT id FROM outbox WHERE person_id = ?)',
  'DELETE FROM reader_acts WHERE done_at IS NULL AND outbox_id IN (SELECT id FROM outbox WHERE person_id = ?)',
  `
    UPDATE confirmations SET answers = '{}', state = CASE state WHEN 'waiting' THEN 'withdrawn'
    ELSE state END, next_at = NULL, remind_at = NULL WHERE person_id = ?`,
  `UPDATE address_changes SET address = '', address_key = '' WHERE person_id = ?`,
  `UPDATE checkouts SET origin = NULL, answers = '{"firstName":"","zone":null,"ip":null,"consent":""}' WHERE person_id = ?`,
  `UPDATE waits SET answers = '{"firstName":"","zone":null,"ip":null,"consent":""}' WHERE person_id = ?`,
  // What the payment stand-in knows goes, too; a payment service of live has books of its own, by law.
  'DELETE FROM practice_orders WHERE order_key IN (SELECT order_key FROM checkouts WHERE person_id = ?)',
  'DELETE FROM said_no_more WHERE person_id = ?',
  'UPDATE consents SET ip = NULL, zone = NULL WHERE person_id = ?',
]

/** The row stays, nobody's any more, and so do events and emails, which say what happened and not to whom. */
export function erasePersonalData(db: Database, personId: number): void {
  for (const sql of PERSONAL) prepare(db, sql).run(personId)
  prepare(db, `
    UPDATE people
    SET gone = 'erased', address = '', address_key = 'erased ' || id, search_text = '', first_name = '', zone = NULL, country = NULL
    WHERE id = ?`).run(personId)
}
