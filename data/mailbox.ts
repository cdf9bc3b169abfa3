/** The practice mailbox. */
import type { Instant } from '#core/time/zone'
import type { MailLine } from '#core/views/mailbox'
import type { Database } from './connection'
import { prepare } from './connection'

export interface DeliveredMail { messageRef: string, toAddress: string, toName: string, subject: string, source: Uint8Array, at: Instant }

/** Keeps one email under its Message-ID. A second delivery of the same one is counted and changes nothing else. */
export function deliver(db: Database, mail: DeliveredMail): void {
  prepare(db, `INSERT INTO mailbox (message_ref, to_address, to_name, subject, source, at) VALUES (?, ?, ?, ?, ?, ?)
    ON CONFLICT (message_ref) DO UPDATE SET deliveries = deliveries + 1`)
    .run(mail.messageRef, mail.toAddress, mail.toName, mail.subject, Buffer.from(mail.source), mail.at)
}

const MAIL = `
  SELECT b.id, b.to_address AS toAddress, b.to_name AS toName, b.subject, b.at, o.opened_at AS openedAt, o.clicked_at AS clickedAt
  FROM mailbox b LEFT JOIN outbox o ON o.message_ref = b.message_ref`

export function searchMailbox(db: Database, search: string, limit: number, offset: number): { rows: MailLine[], total: number } {
  const values = { search: search.trim().toLowerCase() }
  const where =
    `WHERE @search = '' OR instr(lower(b.to_address), @search) > 0 OR instr(lower(b.subject), @search) > 0 OR instr(lower(b.to_name), @search) > 0`
  return {
    rows: prepare<MailLine>(db, `${MAIL} ${where} ORDER BY b.at DESC, b.id DESC LIMIT @limit OFFSET @offset`).all({
      ...values, limit, offset,
    }),
    total: prepare<{ n: number }>(db, `SELECT count(*) AS n FROM mailbox b ${where}`).get(values)!.n,
  }
}

export function findMail(db: Database, id: number): (MailLine & { source: Buffer, personId: number | null }) | undefined {
  return prepare<MailLine & { source: Buffer, personId: number | null }>(db, `
    SELECT b.id, b.to_address AS toAddress, b.to_name AS toName, b.subject, b.at, o.opened_at AS openedAt,
      o.clicked_at AS clickedAt, b.source, o.person_id AS personId
    FROM mailbox b LEFT JOIN outbox o ON o.message_ref = b.message_ref WHERE b.id = ?`).get(id)
}
