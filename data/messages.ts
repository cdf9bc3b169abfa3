/** Wordings of emails, each stored once with the templates made from it. */
import type { MessageContent, TrackedUse } from '#core/message/content'
import type { Compiled } from '#core/ports'
import type { Action } from '#core/rules/rule'
import type { Instant } from '#core/time/zone'
import type { Database } from './connection'
import { q, remember } from './connection'
import { isInLibrary, linkForUrl } from './links'
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
    const linkId = link.linkId !== null && isInLibrary(db, link.linkId) ? link.linkId : linkForUrl(db, link.url, link.label, row.at)
    const does: Action[] = link.tagId === null ? [] : [{ kind: 'give-tag', tagId: link.tagId }]
    q(db, 'INSERT INTO message_links (message_id, n, url, label, link_id, does, asks) VALUES (?, ?, ?, ?, ?, ?, ?)').run(id, link.n, link.url, link.label, linkId, JSON.stringify(does), link.asks ? 1 : 0)
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

/** `does` and `asks`: of this one use of the link, besides what the link brings anywhere. The address is that of its writing. */
export interface LinkUse { n: number, url: string, label: string, linkId: number, does: Action[], asks: boolean }

export function linksOfMessage(db: Database, messageId: number): LinkUse[] {
  return remember(db, 'message_links', messageId, () =>
    q<Omit<LinkUse, 'does' | 'asks'> & { does: string, asks: 0 | 1 }>(db, 'SELECT n, url, label, link_id AS linkId, does, asks FROM message_links WHERE message_id = ? ORDER BY n').all(messageId)
      .map(row => ({ ...row, does: JSON.parse(row.does) as Action[], asks: row.asks === 1 })))
}
