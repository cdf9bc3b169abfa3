/** Wordings of emails, each stored once with the templates made from it. */
import type { MessageContent, TrackedUse } from '#core/message/content'
import type { Compiled } from '#core/ports'
import type { Instant } from '#core/time/zone'
import type { Database } from './connection'
import { q, remember } from './connection'
import type { EmailKind } from './outbox'

/** Which email it is a wording of. */
export interface MessageOf { kind: EmailKind, thingId: number, stepId: string }

/** The number of a wording that is there already. */
export function findMessageId(db: Database, { kind, thingId, stepId }: MessageOf, digest: string): number | undefined {
  return q<{ id: number }>(db, 'SELECT id FROM messages WHERE kind = ? AND thing_id = ? AND step_id = ? AND digest = ?').get(kind, thingId, stepId, digest)?.id
}

export interface NewMessage extends MessageOf {
  digest: string
  content: MessageContent
  compiled: Compiled
  links: TrackedUse[]
  at: Instant
}

export function insertMessage(db: Database, row: NewMessage): number {
  const id = Number(q(db, `
    INSERT INTO messages (kind, thing_id, step_id, digest, working_title, content, subject, html, text, sells, created_at)
    VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`).run(
    row.kind, row.thingId, row.stepId, row.digest, row.content.workingTitle, JSON.stringify(row.content),
    row.compiled.subject, row.compiled.html, row.compiled.text, row.content.sellsNothing ? 0 : 1, row.at).lastInsertRowid)
  for (const link of row.links) {
    q(db, 'INSERT INTO message_links (message_id, n, url, label, tag_id) VALUES (?, ?, ?, ?, ?)').run(id, link.n, link.url, link.label, link.tagId)
  }
  return id
}

export interface MessageRow extends Compiled { id: number, workingTitle: string, sells: 0 | 1 }

/** One wording of an email. */
export function messageOf(db: Database, id: number): MessageRow {
  return remember(db, 'messages', id, () => {
    const row = q<MessageRow>(db, 'SELECT id, working_title AS workingTitle, subject, html, text, sells FROM messages WHERE id = ?').get(id)
    if (!row) throw new Error(`There is no email ${id}`)
    return row
  })
}

export interface LinkRow { n: number, url: string, label: string, tagId: number | null }

export function linksOfMessage(db: Database, messageId: number): LinkRow[] {
  return remember(db, 'message_links', messageId, () =>
    q<LinkRow>(db, 'SELECT n, url, label, tag_id AS tagId FROM message_links WHERE message_id = ? ORDER BY n').all(messageId))
}
