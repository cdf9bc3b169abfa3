/** Files that pages promise, and who fetched them. */
import type { AttachedContent } from '#core/ports'
import type { Instant } from '#core/time/zone'
import type { FileView } from '#core/views/pages'
import type { Database } from './connection'
import { prepare } from './connection'
import type { OpenJudgement } from './reading'

export function findFile(db: Database, id: number): FileView | undefined {
  return prepare<FileView>(db, 'SELECT id, name, type, bytes FROM files WHERE id = ?').get(id)
}

export function allFiles(db: Database): FileView[] {
  return prepare<FileView>(db, 'SELECT id, name, type, bytes FROM files ORDER BY id').all()
}

export function contentOfFile(db: Database, id: number): Uint8Array {
  return prepare<{ content: Uint8Array }>(db, 'SELECT content FROM files WHERE id = ?').get(id)!.content
}

/** What is attached is needed by every email of a send; so much of it is kept at hand, in bytes. */
const MOST_AT_HAND = 40_000_000
const atHand = new WeakMap<Database, Map<number, AttachedContent>>()

/** In base64, in lines of 76. RFC 2045 section 6.8. */
const base64Of = (content: Uint8Array): Buffer => Buffer.from(Buffer.from(content).toString('base64').replace(/.{76}(?=.)/g, '$&\r\n'))

/** As they go over the line; what is gone is left out. Files never change. */
export function attachedFiles(db: Database, ids: readonly number[]): AttachedContent[] {
  if (ids.length === 0) return []
  let known = atHand.get(db)
  if (!known) atHand.set(db, known = new Map())
  return ids.flatMap((id) => {
    const before = known.get(id)
    if (before) return [before]
    const file = findFile(db, id)
    if (!file) return []
    const read = { id, name: file.name, type: file.type, encoded: base64Of(contentOfFile(db, id)) }
    if ([...known.values()].reduce((sum, { encoded }) => sum + encoded.length, read.encoded.length) > MOST_AT_HAND) known.clear()
    known.set(id, read)
    return [read]
  })
}

export function insertFile(db: Database, row: { name: string, type: string, content: Uint8Array, at: Instant }): number {
  return Number(prepare(db, 'INSERT INTO files (name, type, bytes, content, created_at) VALUES (?, ?, ?, ?, ?)').run(
    row.name, row.type, row.content.length, row.content, row.at,
  ).lastInsertRowid)
}

export function insertFetch(
  db: Database, row: { outboxId: number, fileId: number, at: Instant, judged: OpenJudgement, eventId: number },
): void {
  prepare(db, 'INSERT INTO file_fetches (outbox_id, file_id, at, judged, event_id) VALUES (?, ?, ?, ?, ?)').run(
    row.outboxId, row.fileId, row.at, row.judged, row.eventId,
  )
}

/** The opt-in that the file was promised by is marked with its first fetch by a reader. */
export function markFetched(db: Database, optIn: { pageId: number, personId: number, eventId: number }, at: Instant): void {
  prepare(db, 'UPDATE opt_ins SET fetched_at = coalesce(fetched_at, ?) WHERE page_id = ? AND person_id = ? AND event_id = ?').run(
    at, optIn.pageId, optIn.personId, optIn.eventId,
  )
}
