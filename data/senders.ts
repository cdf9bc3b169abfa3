/** Who emails are from, and what is known of the domains of their addresses. */
import type { MailDomain, Published } from '#core/senders/mailDomain'
import type { SenderInput } from '#core/senders/sender'
import type { Instant } from '#core/time/zone'
import type { Database } from './connection'
import { prepare } from './connection'
import type { Due } from './dueKind'
import { keep, keepSteady } from './kept'

export interface SenderRow extends SenderInput {
  id: number
  confirmedAt: Instant | null
  code: string | null
  codeUntilAt: Instant | null
  codeTries: number
  stoppedReason: string | null
}

const SENDER = `SELECT id, name, address, reply_to AS replyTo, service_url AS serviceUrl, confirmed_at AS confirmedAt, code,
  code_until_at AS codeUntilAt, code_tries AS codeTries, stopped_reason AS stoppedReason FROM senders WHERE gone_at IS NULL`

/** Upper and lower case of an address are the same mailbox to everybody who matters. */
const keyOf = (address: string): string => address.toLowerCase()

export const allSenders = (db: Database): SenderRow[] => prepare<SenderRow>(db, `${SENDER} ORDER BY id`).all()

export const findSender = (db: Database, id: number): SenderRow | undefined =>
  keepSteady(db, `sender ${id}`, () => prepare<SenderRow>(db, `${SENDER} AND id = ?`).get(id))

export const senderByAddress = (db: Database, address: string): SenderRow | undefined =>
  prepare<SenderRow>(db, `${SENDER} AND address_key = ?`).get(keyOf(address))

export function insertSender(db: Database, { name, address, replyTo, serviceUrl }: SenderInput, at: Instant): number {
  return Number(prepare(
    db, 'INSERT INTO senders (name, address, address_key, reply_to, service_url, made_at) VALUES (?, ?, ?, ?, ?, ?)',
  ).run(name, address, keyOf(address), replyTo, serviceUrl, at).lastInsertRowid)
}

/** Another address is to be confirmed anew. */
export function updateSender(db: Database, id: number, { name, address, replyTo, serviceUrl }: SenderInput): void {
  prepare(db, `
    UPDATE senders SET name = @name, reply_to = @replyTo, service_url = @serviceUrl, address = @address,
      confirmed_at = CASE WHEN address_key = @key THEN confirmed_at END, code = CASE WHEN address_key = @key THEN code END,
      stopped_reason = CASE WHEN service_url IS @serviceUrl THEN stopped_reason END,
      stopped_at = CASE WHEN service_url IS @serviceUrl THEN stopped_at END, address_key = @key
    WHERE id = @id`).run({ id, name, address, replyTo, serviceUrl, key: keyOf(address) })
}

export function setSenderGone(db: Database, id: number, at: Instant): void {
  prepare(db, 'UPDATE senders SET gone_at = ?, code = NULL WHERE id = ?').run(at, id)
  for (const table of ['lists', 'tags'] as const) prepare(db, `UPDATE ${table} SET sender_id = NULL WHERE sender_id = ?`).run(id)
}

/** Also one that is gone. */
export const goneSender = (db: Database, id: number): Pick<SenderRow, 'id' | 'name' | 'address'> | undefined =>
  prepare<Pick<SenderRow, 'id' | 'name' | 'address'>>(
    db, 'SELECT id, name, address FROM senders WHERE id = ? AND gone_at IS NOT NULL',
  ).get(id)

export const setSenderBack = (db: Database, id: number): unknown => prepare(db, 'UPDATE senders SET gone_at = NULL WHERE id = ?').run(id)

/* That it is read */

export function setSenderCode(db: Database, id: number, code: string, untilAt: Instant): void {
  prepare(db, 'UPDATE senders SET code = ?, code_until_at = ?, code_tries = 0 WHERE id = ?').run(code, untilAt, id)
}

export const countCodeTry = (db: Database, id: number): unknown =>
  prepare(db, 'UPDATE senders SET code_tries = code_tries + 1 WHERE id = ?').run(id)

export function setSenderConfirmed(db: Database, id: number, at: Instant): void {
  prepare(db, 'UPDATE senders SET confirmed_at = ?, code = NULL, code_until_at = NULL WHERE id = ?').run(at, id)
}

/* Its own mail service */

export function setSenderStopped(db: Database, id: number, reason: string | null, at: Instant): void {
  prepare(db, 'UPDATE senders SET stopped_reason = ?, stopped_at = ? WHERE id = ?').run(reason, reason === null ? null : at, id)
}

/* What it writes */

/** The workspace's, from which everything goes that nothing else is said of; null before one was named. */
export const defaultSenderId = (db: Database): number | null => keepSteady(db, 'default sender', () =>
  prepare<{ id: number | null }>(db, 'SELECT sender_id AS id FROM workspace WHERE id = 1').get()?.id ?? null)

export const setDefaultSender = (db: Database, id: number): unknown =>
  prepare(db, 'UPDATE workspace SET sender_id = ? WHERE id = 1').run(id)

type Mark = 'lists' | 'tags'

/** The lists, or the tags, whose emails go from it. */
export const marksOfSender = (db: Database, table: Mark, senderId: number): number[] =>
  prepare<{ id: number }>(db, `SELECT id FROM ${table} WHERE sender_id = ? AND gone IS NULL ORDER BY id`).all(senderId).map(({ id }) => id)

/** Just these; what another sender had of them it has no longer. */
export function setMarksOfSender(db: Database, table: Mark, senderId: number, ids: readonly number[]): void {
  prepare(db, `UPDATE ${table} SET sender_id = NULL WHERE sender_id = ?`).run(senderId)
  prepare(
    db, `UPDATE ${table} SET sender_id = ? WHERE id IN (SELECT value FROM json_each(?)) AND gone IS NULL`,
  ).run(senderId, JSON.stringify(ids))
}

export const senderOfMark = (db: Database, table: Mark, id: number): number | null =>
  prepare<{ id: number | null }>(db, `SELECT sender_id AS id FROM ${table} WHERE id = ?`).get(id)?.id ?? null

export const senderOfList = (db: Database, listId: number): number | null =>
  keepSteady(db, `sender of list ${listId}`, () => senderOfMark(db, 'lists', listId))

/** By the oldest of the person's tags that has one. */
export function senderByTags(db: Database, personId: number): number | null {
  const hasAny = keepSteady(db, 'tags with senders', () =>
    prepare(db, 'SELECT 1 FROM tags WHERE sender_id IS NOT NULL AND gone IS NULL').get() !== undefined)
  if (!hasAny) return null
  return keep(db, ['tags', 'tag_holdings', 'senders'], `sender by tags ${personId}`, () => prepare<{ id: number }>(db, `
    SELECT t.sender_id AS id FROM tags t JOIN tag_holdings h ON h.tag_id = t.id
    WHERE h.person_id = ? AND t.sender_id IS NOT NULL AND t.gone IS NULL ORDER BY t.id LIMIT 1`).get(personId)?.id ?? null)
}

/* Domains */

export const DOMAINS_DUE: Due = { rows: 'mail_domains WHERE check_due_at IS NOT NULL', at: 'check_due_at' }

const DOMAIN = `SELECT domain, selector, public_key AS publicKey, published, checked_at AS checkedAt, trouble FROM mail_domains`
interface RawDomain extends Pick<MailDomain, 'domain' | 'checkedAt' | 'trouble'> {
  selector: string | null, publicKey: string | null, published: string | null,
}

export const findMailDomain = (db: Database, domain: string): MailDomain => keepSteady(db, `mail domain ${domain}`, () => {
  const row = prepare<RawDomain>(db, `${DOMAIN} WHERE domain = ?`).get(domain)
  return row ? readDomain(row) : { domain, key: null, published: null, checkedAt: null, trouble: null }
})

const readDomain = ({ selector, publicKey, published, ...row }: RawDomain): MailDomain => ({
  ...row, key: selector !== null && publicKey !== null ? { selector, publicKey } : null,
  published: published === null ? null : JSON.parse(published) as Published,
})

export const domainsToCheck = (db: Database, at: Instant, limit: number): MailDomain[] =>
  prepare<RawDomain>(db, `${DOMAIN} WHERE check_due_at <= ? ORDER BY check_due_at LIMIT ?`).all(at, limit).map(readDomain)

/** From now on it is looked at by itself. */
export function noteMailDomain(db: Database, domain: string, dueAt: Instant): void {
  prepare(db, 'INSERT INTO mail_domains (domain, check_due_at) VALUES (?, ?) ON CONFLICT (domain) DO NOTHING').run(domain, dueAt)
}

export function setCheckDue(db: Database, domains: readonly string[], dueAt: Instant | null): void {
  prepare(
    db, 'UPDATE mail_domains SET check_due_at = ? WHERE domain IN (SELECT value FROM json_each(?))',
  ).run(dueAt, JSON.stringify(domains))
}

/** Where the name servers could not be asked, what they said last stays. */
export function savePublished(
  db: Database, domain: string, found: { published: Published | null, trouble: string | null, at: Instant, nextAt: Instant },
): void {
  const { published, trouble, at, nextAt } = found
  prepare(db, `
    UPDATE mail_domains SET published = coalesce(?, published), trouble = ?, checked_at = ?, check_due_at = ? WHERE domain = ?`)
    .run(published && JSON.stringify(published), trouble, at, nextAt, domain)
}

export function setDomainKey(db: Database, domain: string, key: { selector: string, privateKey: string, publicKey: string }): void {
  prepare(db, 'UPDATE mail_domains SET selector = @selector, private_key = @privateKey, public_key = @publicKey WHERE domain = @domain')
    .run({ ...key, domain })
}

/** For signing. Null where none was made. */
export const signingKeyOf = (db: Database, domain: string): { selector: string, privateKey: string } | null =>
  keepSteady(db, `signing key of ${domain}`, () => prepare<{ selector: string, privateKey: string }>(
    db, 'SELECT selector, private_key AS privateKey FROM mail_domains WHERE domain = ? AND private_key IS NOT NULL',
  ).get(domain) ?? null)

/* The name servers of practice */

export const practiceDns = (db: Database, name: string): string | null =>
  prepare<{ value: string }>(db, 'SELECT value FROM practice_dns WHERE name = ?').get(name)?.value ?? null

/** Null takes it away. */
export function setPracticeDns(db: Database, name: string, value: string | null): void {
  if (value === null) prepare(db, 'DELETE FROM practice_dns WHERE name = ?').run(name)
  else prepare(
    db, 'INSERT INTO practice_dns (name, value) VALUES (?, ?) ON CONFLICT (name) DO UPDATE SET value = excluded.value',
  ).run(name, value)
}
