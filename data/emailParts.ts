/** Parts of emails, and emails that others begin with. */
import type { MessageContent, RichText } from '#core/message/content'
import type { Instant } from '#core/time/zone'
import type { Database } from './connection'
import { prepare } from './connection'

export interface PartRow { id: number, name: string, body: RichText, changedAt: Instant }

type Raw = Omit<PartRow, 'body'> & { body: string }
const PART = 'SELECT id, name, body, changed_at AS changedAt FROM email_parts'
const read = (row: Raw): PartRow => ({ ...row, body: JSON.parse(row.body) as RichText })

export const allParts = (db: Database): PartRow[] =>
  prepare<Raw>(db, `${PART} WHERE gone_at IS NULL ORDER BY name COLLATE NOCASE, id`).all().map(read)

export function findPart(db: Database, id: number): PartRow | undefined {
  const row = prepare<Raw>(db, `${PART} WHERE id = ? AND gone_at IS NULL`).get(id)
  return row && read(row)
}

export function insertPart(db: Database, { name, body }: Pick<PartRow, 'name' | 'body'>, at: Instant): number {
  return Number(prepare(db, 'INSERT INTO email_parts (name, body, made_at, changed_at) VALUES (?, ?, ?, ?)').run(
    name, JSON.stringify(body), at, at,
  ).lastInsertRowid)
}

export function updatePart(db: Database, id: number, { name, body }: Pick<PartRow, 'name' | 'body'>, at: Instant): void {
  prepare(db, 'UPDATE email_parts SET name = ?, body = ?, changed_at = ? WHERE id = ?').run(name, JSON.stringify(body), at, id)
}

export function endPart(db: Database, id: number, at: Instant): void {
  prepare(db, 'UPDATE email_parts SET gone_at = ? WHERE id = ?').run(at, id)
}

export interface OwnTemplate { id: number, name: string, content: MessageContent }

export const allOwnTemplates = (db: Database): OwnTemplate[] =>
  prepare<Omit<OwnTemplate, 'content'> & { content: string }>(
    db, 'SELECT id, name, content FROM email_templates ORDER BY name COLLATE NOCASE, id',
  ).all().map(row => ({ ...row, content: JSON.parse(row.content) as MessageContent }))

export function insertOwnTemplate(db: Database, { name, content }: Omit<OwnTemplate, 'id'>, at: Instant): number {
  return Number(prepare(db, 'INSERT INTO email_templates (name, content, made_at) VALUES (?, ?, ?)').run(
    name, JSON.stringify(content), at,
  ).lastInsertRowid)
}

/** False if there is none. */
export const deleteOwnTemplate = (db: Database, id: number): boolean =>
  prepare(db, 'DELETE FROM email_templates WHERE id = ?').run(id).changes > 0
