/** Emails that are written and stand nowhere yet. */
import type { MessageContent } from '#core/message/content'
import type { Instant } from '#core/time/zone'
import type { Database } from './connection'
import { prepare } from './connection'

export interface EmailDraftRow { id: number, content: MessageContent, changedAt: Instant }

const DRAFT = 'SELECT id, content, changed_at AS changedAt FROM email_drafts'
const parse = (row: Omit<EmailDraftRow, 'content'> & { content: string }): EmailDraftRow =>
  ({ ...row, content: JSON.parse(row.content) as MessageContent })

/** What was changed last comes first. */
export const allEmailDrafts = (db: Database): EmailDraftRow[] =>
  prepare<Omit<EmailDraftRow, 'content'> & { content: string }>(db, `${DRAFT} ORDER BY changed_at DESC, id DESC`).all().map(parse)

export function findEmailDraft(db: Database, id: number): EmailDraftRow | undefined {
  const row = prepare<Omit<EmailDraftRow, 'content'> & { content: string }>(db, `${DRAFT} WHERE id = ?`).get(id)
  return row && parse(row)
}

export const insertEmailDraft = (db: Database, content: MessageContent, at: Instant): number => Number(
  prepare(db, 'INSERT INTO email_drafts (content, made_at, changed_at) VALUES (?, ?, ?)')
    .run(JSON.stringify(content), at, at).lastInsertRowid,
)

export function updateEmailDraft(db: Database, id: number, content: MessageContent, at: Instant): void {
  prepare(db, 'UPDATE email_drafts SET content = ?, changed_at = ? WHERE id = ?').run(JSON.stringify(content), at, id)
}

export const deleteEmailDraft = (db: Database, id: number): unknown => prepare(db, 'DELETE FROM email_drafts WHERE id = ?').run(id)
