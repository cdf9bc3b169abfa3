/** Wordings of emails, each stored once with the templates made from it. */
import type { Utm } from '#core/message/utm'
import {
  nameOfMessage, type Answers, type AttachedFile, type MessageContent, type RichText, type TrackedUse,
} from '#core/message/content'
import type { Choice } from '#core/message/blocks'
import type { CompiledMessage, Filled } from '#core/message/fill'
import type { Action } from '#core/rules/rule'
import type { EmailKind, SendOf } from '#core/sending/kinds'
import { isLookedUp } from '#core/message/complete'
import { factsIn, readyIn, type Template } from '#core/message/template'
import type { Instant } from '#core/time/zone'
import type { Database } from './connection'
import { prepare, memoize } from './connection'
import { isInLibrary, linkForUrl, linkOfAnswer } from './links'

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
  choices: Choice[]
  /** What it was made with besides its words. */
  madeWith: string
  at: Instant
}

export function insertMessage(db: Database, row: NewMessage): number {
  const id = Number(prepare(db, `
    INSERT INTO messages (
      kind, owner_id, item_id, digest, working_title, content, subject, html, text, choices, made_with, sells, created_at)
    VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`).run(
    row.kind, row.ownerId, row.itemId, row.digest, nameOfMessage(row.content), JSON.stringify(row.content),
    ...TEMPLATES.map(part => JSON.stringify(row.compiled[part])), JSON.stringify(row.choices), row.madeWith,
    row.content.sellsNothing ? 0 : 1, row.at).lastInsertRowid)
  for (const link of row.links) {
    const linkId = link.answers
      ? linkOfAnswer(db, link.url, link.label, row.at)
      : link.linkId !== null && isInLibrary(db, link.linkId) ? link.linkId : linkForUrl(db, link.url, link.label, row.at)
    const does: Action[] = [
      ...link.answers?.takes.map((tagId): Action => ({ kind: 'take-tag', tagId })) ?? [],
      ...link.tagId === null ? [] : [{ kind: 'give-tag', tagId: link.tagId } as const],
    ]
    prepare(db, 'INSERT INTO message_links (message_id, n, url, label, link_id, does, asks, choice) VALUES (?, ?, ?, ?, ?, ?, ?, ?)').run(
      id, link.n, link.url, link.label, linkId, JSON.stringify(does), link.asks ? 1 : 0, link.answers && JSON.stringify(link.answers),
    )
  }
  return id
}

/** What an email is made into, each kept as JSON. */
const TEMPLATES = ['subject', 'html', 'text'] as const

export interface MessageRow extends CompiledMessage {
  id: number
  workingTitle: string
  sells: 0 | 1
  choices: Choice[]
  /** The facts that its places ask for. */
  facts: ReadonlySet<string>
  /** What it was made with besides its words, and what that depends on. */
  madeWith: string
  /** What has to be made ready for its places. */
  ready: ReadonlySet<string>
  isLetter: boolean
  unwatched: boolean
  utm: Utm | null
  attached: readonly AttachedFile[]
  /** Whom it names as its sender; null for nobody. */
  senderId: number | null
  /** As it was written, where anything in it is looked up. */
  body: RichText | null
}

/** One wording of an email. */
export function messageOf(db: Database, id: number): MessageRow {
  return memoize(db, 'messages', id, () => {
    const row = prepare<Pick<MessageRow, 'id' | 'workingTitle' | 'sells' | 'madeWith'>
      & Record<keyof CompiledMessage | 'choices' | 'content', string>>(db, `
      SELECT id, working_title AS workingTitle, subject, html, text, choices, content, made_with AS madeWith, sells
      FROM messages WHERE id = ?`).get(id)
    if (!row) throw new Error(`There is no email ${id}`)
    const [subject, html, text] = TEMPLATES.map(part => JSON.parse(row[part]) as Template)
    const facts = new Set<string>()
    const ready = new Set<string>()
    for (const template of [subject!, html!, text!]) {
      factsIn(template, facts)
      readyIn(template, ready)
    }
    const { content, ...rest } = row
    const { isLetter, body, senderId = null, utm = null, attached = [], unwatched } = JSON.parse(content) as MessageContent
    return {
      ...rest, subject: subject!, html: html!, text: text!, choices: JSON.parse(row.choices) as Choice[], facts, ready,
      isLetter: isLetter === true, unwatched: unwatched === true, senderId, utm, attached, body: isLookedUp(body) ? body : null,
    }
  })
}

/** What it was made from. */
export function wordingOfMessage(db: Database, id: number): { of: MessageOf, content: MessageContent } {
  const { kind, ownerId, itemId, content } = prepare<MessageOf & { content: string }>(db, `
    SELECT kind, owner_id AS ownerId, item_id AS itemId, content FROM messages WHERE id = ?`).get(id)!
  return { of: { kind, ownerId, itemId }, content: JSON.parse(content) as MessageContent }
}

/** `does` and `asks`: of this one use of the link, besides what the link brings anywhere. The address is that of its writing. */
export interface LinkUse {
  n: number, url: string, label: string, linkId: number, does: Action[], asks: boolean, answers: Answers | null
}

export function linksOfMessage(db: Database, messageId: number): LinkUse[] {
  return memoize(db, 'message_links', messageId, () =>
    prepare<Omit<LinkUse, 'does' | 'asks' | 'answers'> & { does: string, asks: 0 | 1, choice: string | null }>(
      db, 'SELECT n, url, label, link_id AS linkId, does, asks, choice FROM message_links WHERE message_id = ? ORDER BY n',
    ).all(messageId)
      .map(({ choice, ...row }) => ({
        ...row, does: JSON.parse(row.does) as Action[], asks: row.asks === 1,
        answers: choice === null ? null : JSON.parse(choice) as Answers,
      })))
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

/** When an email of a send was handed over last; of any of its owner, where no item is named. */
export function lastSentAt(
  db: Database, { kind, ownerId, itemId }: { kind: EmailKind, ownerId: number, itemId: string | null },
): Instant | null {
  return prepare<{ at: Instant | null }>(db, `
    SELECT max((SELECT max(o.handed_over_at) FROM outbox o
      WHERE o.kind = s.kind AND o.owner_id = s.owner_id AND o.item_id = s.item_id AND o.handed_over_at IS NOT NULL)) AS at
    FROM sends s WHERE s.kind = @kind AND s.owner_id = @ownerId
    AND (@itemId IS NULL OR s.item_id = @itemId)`).get({ kind, ownerId, itemId })!.at
}

/** What stood in the places of an email for its reader; told again if it is tried again. */
export function keepFilled(db: Database, outboxId: number, { facts, chosen }: Filled): void {
  prepare(db, `
    INSERT INTO filled_emails (outbox_id, facts, chosen) VALUES (?, ?, ?) ON CONFLICT (outbox_id) DO UPDATE
    SET facts = excluded.facts, chosen = excluded.chosen`).run(outboxId, JSON.stringify(facts), JSON.stringify(chosen))
}

/** Nothing for what was sent before it was kept, and of people who were erased. */
export function findFilled(db: Database, outboxId: number): Filled | undefined {
  const row = prepare<{ facts: string, chosen: string }>(db, 'SELECT facts, chosen FROM filled_emails WHERE outbox_id = ?').get(outboxId)
  return row && { facts: JSON.parse(row.facts) as Filled['facts'], chosen: JSON.parse(row.chosen) as Filled['chosen'] }
}
