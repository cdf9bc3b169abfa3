/** Tests of emails: what each says. */
import type { FilledMessage } from '#core/message/fill'
import type { Instant } from '#core/time/zone'
import type { Database } from './connection'
import { prepare } from './connection'

/** `senderId`: who it is from. */
export interface TestEmail extends FilledMessage { senderId: number | null }

export function insertTestEmail(
  db: Database, { subject, html, text, senderId }: TestEmail, at: Instant,
): number {
  return Number(
    prepare(db, 'INSERT INTO test_emails (subject, html, text, sender_id, at) VALUES (?, ?, ?, ?, ?)')
      .run(subject, html, text, senderId, at).lastInsertRowid,
  )
}

export const findTestEmail = (db: Database, id: number): TestEmail | undefined =>
  prepare<TestEmail>(db, 'SELECT subject, html, text, sender_id AS senderId FROM test_emails WHERE id = ?').get(id)
