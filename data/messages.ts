/** Wordings of emails, each stored once with the templates made from it. */
import { nameOfMessage, type MessageContent, type TrackedUse } from '#core/message/content'
import type { CompiledMessage } from '#core/ports'
import type { Action } from '#core/rules/rule'
import type { EmailKind, SendOf } from '#core/sending/kinds'
import type { Instant } from '#core/time/zone'
import type { Database } from './connection'
import { prepare, memoize } from './connection'
import { isInLibrary, linkForUrl } from './links'

/** Which email it is a wording of. */
export interface MessageOf { kind: EmailKind, ownerId: number, itemId: string }

/** The number of a wording that is there already. */
export function findMessageId(db: Database, { kind, ownerId, itemId }: MessageOf, digest: string): number | undefined {
  return prepare<{ id: number }>(db, 'SELECT id FROM messages WHERE kind = ? AND owner_id = ? AND item_id = ? AND digest = ?').get(
    kind, ownerId, itemId, digest,
  )?.id
}

export interface NewMessage extends MessageOf {
  digest: string
  content: MessageContent
  compiled: CompiledMessage
  links: TrackedUse[]
  at: Instant
}

export function insertMessage(db: Database, row: NewMessage): number {
  const id = Number(prepare(db, `
    INSERT INTO messages (kind, owner_id, item_id, digest, working_title, content, subject, html, text, sells, created_at)
    VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`).run(
    row.kind, row.ownerId, row.itemId, row.digest, nameOfMessage(row.content), JSON.stringify(row.content),
    row.compiled.subject, row.compiled.html, row.compiled.text, row.content.sellsNothing ? 0 : 1, row.at).lastInsertRowid)
  for (const link of row.links) {
    const linkId = link.linkId !== null && isInLibrary(db, link.linkId) ? link.linkId : linkForUrl(db, link.url, link.label, row.at)
    const does: Action[] = link.tagId === null ? [] : [{ kind: 'give-tag', tagId: link.tagId }]
    prepare(db, 'INSERT INTO message_links (message_id, n, url, label, link_id, does, asks) VALUES (?, ?, ?, ?, ?, ?, ?)').run(
      id, link.n, link.url, link.label, linkId, JSON.stringify(does), link.asks ? 1 : 0,
    )
  }
  return id
}

export interface MessageRow extends CompiledMessage { id: number, workingTitle: string, sells: 0 | 1 }

/** One wording of an email. */
export function messageOf(db: Database, id: number): MessageRow {
  return memoize(db, 'messages', id, () => {
    const row = prepare<MessageRow>(
      db, 'SELECT id, working_title AS workingTitle, subject, html, text, sells FROM messages WHERE id = ?',
    ).get(id)
    if (!row) throw new Error(`There is no email ${id}`)
    return row
  })
}

/** `does` and `asks`: of this one use of the link, besides what the link brings anywhere. The address is that of its writing. */
export interface LinkUse { n: number, url: string, label: string, linkId: number, does: Action[], asks: boolean }

export function linksOfMessage(db: Database, messageId: number): LinkUse[] {
  return memoize(db, 'message_links', messageId, () =>
    prepare<Omit<LinkUse, 'does' | 'asks'> & { does: string, asks: 0 | 1 }>(
      db, 'SELECT n, url, label, link_id AS linkId, does, asks FROM message_links WHERE message_id = ? ORDER BY n',
    ).all(messageId)
      .map(row => ({ ...row, does: JSON.parse(row.does) as Action[], asks: row.asks === 1 })))
}

/** What the writer called the latest email of a send. */
export function latestTitle(db: Database, { kind, ownerId, itemId }: SendOf): string | undefined {
  const of = { kind, ownerId, itemId }
  // A house rule's email is made before the rule is, and known by what it sent.
  return prepare<{ title: string }>(db, `
    SELECT working_title AS title FROM messages WHERE kind = @kind AND owner_id = @ownerId AND item_id = @itemId ORDER BY id DESC
      LIMIT 1`).get(of)?.title
    ?? prepare<{ title: string }>(db, `
      SELECT m.working_title AS title FROM outbox o JOIN messages m ON m.id = o.message_id
      WHERE o.kind = @kind AND o.owner_id = @ownerId AND o.item_id = @itemId ORDER BY o.id DESC LIMIT 1`).get(of)?.title
}
