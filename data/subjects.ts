/** Subjects of emails that were sent. */
import { dequal } from 'dequal'
import type { Line, MessageContent } from '#core/message/content'
import type { EmailKind } from '#core/sending/kinds'
import type { Instant } from '#core/time/zone'
import type { Database } from './connection'
import { prepare } from './connection'
import { kindsInSql } from './sends'

export interface SentSubject {
  kind: EmailKind, ownerId: number, itemId: string, subject: Line, sent: number, opened: number, lastAt: Instant,
}

/** So many are read; older ones say little of today's readers. */
const MOST = 200

/** Of sends whose opens are watched and that nobody asked for, the newest first: people, not emails. */
export function sentSubjects(db: Database): SentSubject[] {
  const kinds = kindsInSql(({ isWatched, isExpected, to }) => isWatched && !isExpected && to === 'subscriber')
  const rows = prepare<Omit<SentSubject, 'subject' | 'opened'>>(db, `
    SELECT kind, owner_id AS ownerId, item_id AS itemId, count(DISTINCT person_id) AS sent, max(handed_over_at) AS lastAt
    FROM outbox WHERE kind IN (${kinds}) AND handed_over_at IS NOT NULL
    GROUP BY kind, owner_id, item_id ORDER BY lastAt DESC LIMIT ${MOST}`).all()
  return rows.flatMap((row) => {
    const subject = subjectOf(db, row)
    if (!subject) return []
    const { opened } = prepare<{ opened: number }>(db, `
      SELECT count(DISTINCT person_id) AS opened FROM outbox WHERE kind = ? AND owner_id = ? AND item_id = ? AND opened_at IS NOT NULL`)
      .get(row.kind, row.ownerId, row.itemId)!
    return [{ ...row, subject, opened }]
  })
}

/** Null where its wordings have different ones. */
function subjectOf(db: Database, { kind, ownerId, itemId }: Pick<SentSubject, 'kind' | 'ownerId' | 'itemId'>): Line | null {
  const own = prepare<{ content: string }>(db, 'SELECT content FROM messages WHERE kind = ? AND owner_id = ? AND item_id = ?')
    .all(kind, ownerId, itemId)
  // A house rule's email is made before the rule is, and known by what it sent.
  const wordings = own.length > 0 ? own : prepare<{ content: string }>(db, `
    SELECT m.content FROM outbox o JOIN messages m ON m.id = o.message_id
    WHERE o.kind = ? AND o.owner_id = ? AND o.item_id = ? ORDER BY o.id DESC LIMIT 1`).all(kind, ownerId, itemId)
  const contents = wordings.map(({ content }) => JSON.parse(content) as MessageContent)
  const [first, ...others] = contents
  if (!first || contents.some(({ subjectFor }) => subjectFor?.length)) return null
  return others.every(({ subject }) => dequal(subject, first.subject)) ? first.subject : null
}
