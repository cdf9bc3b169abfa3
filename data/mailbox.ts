/** The practice mailbox. */
import type { Instant } from '#core/time/zone'
import type { Database } from './connection'
import { q } from './connection'

export interface DeliveredMail { messageRef: string, toAddress: string, toName: string, subject: string, source: Uint8Array, at: Instant }

/** Keeps one email under its Message-ID. A second delivery of the same one is counted and changes nothing else. */
export function deliver(db: Database, mail: DeliveredMail): void {
  q(db, `INSERT INTO mailbox (message_ref, to_address, to_name, subject, source, at) VALUES (?, ?, ?, ?, ?, ?)
    ON CONFLICT (message_ref) DO UPDATE SET deliveries = deliveries + 1`)
    .run(mail.messageRef, mail.toAddress, mail.toName, mail.subject, Buffer.from(mail.source), mail.at)
}

export interface MailboxRow { id: number, toAddress: string, toName: string, subject: string, at: Instant, outboxId: number | null, openedAt: Instant | null, clickedAt: Instant | null }

const MAIL = `
  SELECT b.id, b.to_address AS toAddress, b.to_name AS toName, b.subject, b.at, o.id AS outboxId, o.opened_at AS openedAt, o.clicked_at AS clickedAt
  FROM mailbox b LEFT JOIN outbox o ON o.message_ref = b.message_ref`

export function searchMailbox(db: Database, search: string, limit: number, offset: number): { rows: MailboxRow[], total: number } {
  const values = { search: search.trim().toLowerCase() }
  const where = `WHERE @search = '' OR instr(lower(b.to_address), @search) > 0 OR instr(lower(b.subject), @search) > 0 OR instr(lower(b.to_name), @search) > 0`
  return {
    rows: q<MailboxRow>(db, `${MAIL} ${where} ORDER BY b.at DESC, b.id DESC LIMIT @limit OFFSET @offset`).all({ ...values, limit, offset }),
    total: q<{ n: number }>(db, `SELECT count(*) AS n FROM mailbox b ${where}`).get(values)!.n,
  }
}

export function findMail(db: Database, id: number): (MailboxRow & { source: Buffer, personId: number | null }) | undefined {
  return q<MailboxRow & { source: Buffer, personId: number | null }>(db, `
    SELECT b.id, b.to_address AS toAddress, b.to_name AS toName, b.subject, b.at, o.id AS outboxId, o.opened_at AS openedAt,
      o.clicked_at AS clickedAt, b.source, o.person_id AS personId
    FROM mailbox b LEFT JOIN outbox o ON o.message_ref = b.message_ref WHERE b.id = ?`).get(id)
}
