/** The practice mailbox. */
import type { AttachedContent } from '#core/ports'
import type { Instant } from '#core/time/zone'
import type { MailLine } from '#core/views/mailbox'
import type { Database } from './connection'
import { prepare } from './connection'
import { attachedFiles } from './files'

export interface DeliveredMail {
  messageRef: string, toAddress: string, toName: string, subject: string, source: Uint8Array, at: Instant
  attached: readonly Pick<AttachedContent, 'id' | 'encoded'>[]
}

/** Where in a source the bytes of a file stood that are left out of it. */
interface Cut { at: number, fileId: number }

/** A file that goes to everybody is kept once, not with each of them. */
function withoutFiles({ source, attached }: Pick<DeliveredMail, 'source' | 'attached'>): { source: Buffer, cuts: Cut[] } {
  let left = Buffer.from(source)
  const cuts: Cut[] = []
  let from = 0
  for (const { id, encoded } of attached) {
    const at = encoded.length === 0 ? -1 : left.indexOf(encoded, from)
    if (at < 0) continue
    left = Buffer.concat([left.subarray(0, at), left.subarray(at + encoded.length)])
    cuts.push({ at, fileId: id })
    from = at
  }
  return { source: left, cuts }
}

/** As it went over the line. */
export function wholeSource(db: Database, { source, cuts }: { source: Buffer, cuts: Cut[] }): Buffer {
  const pieces: Uint8Array[] = []
  let from = 0
  for (const { at, fileId } of cuts) {
    pieces.push(source.subarray(from, at), ...attachedFiles(db, [fileId]).map(({ encoded }) => encoded))
    from = at
  }
  return Buffer.concat([...pieces, source.subarray(from)])
}

/** Keeps one email under its Message-ID. A second delivery of the same one is counted and changes nothing else. */
export function deliver(db: Database, mail: DeliveredMail): void {
  const { source, cuts } = withoutFiles(mail)
  prepare(db, `INSERT INTO mailbox (message_ref, to_address, to_name, subject, source, attached, at) VALUES (?, ?, ?, ?, ?, ?, ?)
    ON CONFLICT (message_ref) DO UPDATE SET deliveries = deliveries + 1`)
    .run(mail.messageRef, mail.toAddress, mail.toName, mail.subject, source, cuts.length > 0 ? JSON.stringify(cuts) : null, mail.at)
}

const MAIL = `
  SELECT b.id, b.to_address AS toAddress, b.to_name AS toName, b.subject, b.at, o.opened_at AS openedAt, o.clicked_at AS clickedAt
  FROM mailbox b LEFT JOIN outbox o ON o.message_ref = b.message_ref`

/** The number of the newest email there; 0 for none. */
export function lastMailId(db: Database): number {
  return prepare<{ id: number | null }>(db, 'SELECT max(id) AS id FROM mailbox').get()!.id ?? 0
}

export function searchMailbox(db: Database, search: string, limit: number, offset: number): { rows: MailLine[], total: number } {
  const values = { search: search.trim().toLowerCase() }
  const where =
    `WHERE @search = '' OR instr(lower(b.to_address), @search) > 0 OR instr(lower(b.subject), @search) > 0
      OR instr(lower(b.to_name), @search) > 0`
  return {
    rows: prepare<MailLine>(db, `${MAIL} ${where} ORDER BY b.at DESC, b.id DESC LIMIT @limit OFFSET @offset`).all({
      ...values, limit, offset,
    }),
    total: prepare<{ n: number }>(db, `SELECT count(*) AS n FROM mailbox b ${where}`).get(values)!.n,
  }
}

/** `source`: without the bytes of what went along; {@link wholeSource} has them in their places. */
export function findMail(db: Database, id: number): (MailLine & { source: Buffer, cuts: Cut[], personId: number | null }) | undefined {
  const row = prepare<MailLine & { source: Buffer, attached: string | null, personId: number | null }>(db, `
    SELECT b.id, b.to_address AS toAddress, b.to_name AS toName, b.subject, b.at, o.opened_at AS openedAt,
      o.clicked_at AS clickedAt, b.source, b.attached, o.person_id AS personId
    FROM mailbox b LEFT JOIN outbox o ON o.message_ref = b.message_ref WHERE b.id = ?`).get(id)
  if (!row) return undefined
  const { attached, ...mail } = row
  return { ...mail, cuts: attached === null ? [] : JSON.parse(attached) as Cut[] }
}
