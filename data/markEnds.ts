/** What becomes of tags and lists that are deleted or merged into another, and of who had them. */
import type { Instant } from '#core/time/zone'
import type { Database } from './connection'
import { q } from './connection'

type Table = 'tags' | 'lists'
type Gone = { gone: 'deleted' | 'merged' | null, mergedInto: number | null }

const LOOK: Record<Table, string> = {
  tags: 'SELECT gone, merged_into AS mergedInto FROM tags WHERE id = ?',
  lists: 'SELECT gone, merged_into AS mergedInto FROM lists WHERE id = ?',
}

/** The tag or list that a number stands for today, along its mergings; null if it was deleted or never was. */
export function standsFor(db: Database, table: Table, id: number): number | null {
  const row = q<Gone>(db, LOOK[table]).get(id)
  if (!row) return null
  return row.gone === null ? id : row.mergedInto === null ? null : standsFor(db, table, row.mergedInto)
}

const END: Record<Table, string> = {
  tags: `UPDATE tags SET former_name = name, name = 'gone ' || id, gone = ?, merged_into = ? WHERE id = ?`,
  lists: `UPDATE lists SET former_name = name, name = 'gone ' || id, gone = ?, merged_into = ? WHERE id = ?`,
}

/** The row stays for the history; its name is free again. */
export function endMark(db: Database, table: Table, id: number, mergedInto: number | null): void {
  q(db, END[table]).run(mergedInto === null ? 'deleted' : 'merged', mergedInto, id)
}

/** Whoever had the one tag has the other: since the earlier time, and for as long as the longer would have been kept. */
export function mergeHoldings(db: Database, fromId: number, intoId: number, at: Instant): void {
  lookAt(db, 'SELECT person_id FROM tag_holdings WHERE tag_id = ?', fromId, at)
  q(db, `INSERT INTO tag_holdings (tag_id, person_id, since_at, expires_at, event_id)
    SELECT @intoId, person_id, since_at, expires_at, event_id FROM tag_holdings WHERE tag_id = @fromId
    ON CONFLICT (tag_id, person_id) DO UPDATE SET since_at = min(since_at, excluded.since_at),
      expires_at = CASE WHEN expires_at IS NULL OR excluded.expires_at IS NULL THEN NULL ELSE max(expires_at, excluded.expires_at) END`).run({ fromId, intoId })
  q(db, 'DELETE FROM tag_holdings WHERE tag_id = ?').run(fromId)
}

/** Whoever was on the one list is on the other, and whoever had left it has left; what someone did about the other list stays. */
export function mergeMembers(db: Database, fromId: number, intoId: number, at: Instant): void {
  lookAt(db, 'SELECT person_id FROM list_members WHERE list_id = ?', fromId, at)
  q(db, `INSERT OR IGNORE INTO list_members (list_id, person_id, joined_at, left_at, event_id)
    SELECT ?, person_id, joined_at, left_at, event_id FROM list_members WHERE list_id = ?`).run(intoId, fromId)
  q(db, 'DELETE FROM list_members WHERE list_id = ?').run(fromId)
}

/** Nobody has it any more, which stands in everybody's history. */
export function dropHoldings(db: Database, tagId: number, at: Instant, causeId: number): void {
  q(db, `INSERT INTO events (kind, at, person_id, tag_id, cause_id, detail) SELECT 'lost-tag', ?, person_id, tag_id, ?, 'deleted' FROM tag_holdings WHERE tag_id = ? ORDER BY person_id`).run(at, causeId, tagId)
  q(db, 'DELETE FROM tag_holdings WHERE tag_id = ?').run(tagId)
}

export function dropMembers(db: Database, listId: number, at: Instant, causeId: number): void {
  q(db, `INSERT INTO events (kind, at, person_id, list_id, cause_id, detail)
    SELECT 'left-list', ?, person_id, list_id, ?, 'deleted' FROM list_members WHERE list_id = ? AND left_at IS NULL ORDER BY person_id`).run(at, causeId, listId)
  q(db, 'DELETE FROM list_members WHERE list_id = ?').run(listId)
}

/** Segments look again at these people. */
function lookAt(db: Database, people: string, id: number, at: Instant): void {
  q(db, `INSERT OR IGNORE INTO looks (person_id, at, event_id)
    SELECT p.id, ?, (SELECT max(e.id) FROM events e WHERE e.person_id = p.id) FROM people p
    WHERE p.id IN (${people}) AND EXISTS (SELECT 1 FROM events e WHERE e.person_id = p.id)`).run(at, id)
}

/** Whether anything waits to be sent by this list. */
export function isMailedBy(db: Database, listId: number): boolean {
  return q(db, `SELECT 1 FROM outbox WHERE list_id = ? AND status IN ('queued', 'leased', 'handing over', 'failed') LIMIT 1`).get(listId) !== undefined
}

/** What waits to be sent on the one list, and the courses that mail it, go over to the other. */
export function moveMail(db: Database, fromListId: number, toListId: number): void {
  q(db, 'UPDATE courses SET list_id = ? WHERE list_id = ?').run(toListId, fromListId)
  q(db, `UPDATE outbox SET list_id = ? WHERE list_id = ? AND status IN ('queued', 'failed', 'leased')`).run(toListId, fromListId)
}

/** Courses that joining one list starts are started by the other, too; null for by none. */
export function moveListWaysIn(db: Database, fromListId: number, toListId: number | null): void {
  if (toListId !== null) q(db, 'INSERT OR IGNORE INTO course_ways_in_lists (course_id, list_id) SELECT course_id, ? FROM course_ways_in_lists WHERE list_id = ?').run(toListId, fromListId)
  q(db, 'DELETE FROM course_ways_in_lists WHERE list_id = ?').run(fromListId)
}

/** Courses that one tag starts are started by the other, too; null for by none. */
export function moveWaysIn(db: Database, fromTagId: number, toTagId: number | null): void {
  if (toTagId !== null) q(db, 'INSERT OR IGNORE INTO course_ways_in (course_id, tag_id) SELECT course_id, ? FROM course_ways_in WHERE tag_id = ?').run(toTagId, fromTagId)
  q(db, 'DELETE FROM course_ways_in WHERE tag_id = ?').run(fromTagId)
}
