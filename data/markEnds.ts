/** What becomes of tags and lists that are deleted or merged into another, and of who had them. */
import type { Instant } from '#core/time/zone'
import type { Database } from './connection'
import { prepare } from './connection'
import { keepSteady } from './kept'
import type { Span } from './people'
import { CLAIMED } from './sends'

type Table = 'tags' | 'lists'
type Gone = { gone: 'deleted' | 'merged' | null, mergedInto: number | null }

const LOOK: Record<Table, string> = {
  tags: 'SELECT gone, merged_into AS mergedInto FROM tags WHERE id = ?',
  lists: 'SELECT gone, merged_into AS mergedInto FROM lists WHERE id = ?',
}

/** The tag or list that a number stands for today, along its mergings; null if it was deleted or never was. */
export function standsFor(db: Database, table: Table, id: number): number | null {
  const row = keepSteady(db, `what ${table} ${id} became`, () => prepare<Gone>(db, LOOK[table]).get(id))
  if (!row) return null
  return row.gone === null ? id : row.mergedInto === null ? null : standsFor(db, table, row.mergedInto)
}

/** What every merged tag or list stands for today. */
export function mergedMarks(db: Database, table: Table): Map<number, number> {
  const rows = prepare<{ id: number }>(db, `SELECT id FROM ${table} WHERE gone = 'merged'`).all()
  return new Map(rows.flatMap(({ id }) => {
    const today = standsFor(db, table, id)
    return today === null ? [] : [[id, today] as const]
  }))
}

const END: Record<Table, string> = {
  tags: `UPDATE tags SET former_name = name, name = 'gone ' || id, gone = ?, merged_into = ? WHERE id = ?`,
  lists: `UPDATE lists SET former_name = name, name = 'gone ' || id, gone = ?, merged_into = ? WHERE id = ?`,
}

/** The row stays for the history; its name is free again. */
export function endMark(db: Database, table: Table, id: number, mergedInto: number | null): void {
  prepare(db, END[table]).run(mergedInto === null ? 'deleted' : 'merged', mergedInto, id)
}

interface Merging { fromId: number, intoId: number }

/** Where it stands who has it. */
const HELD: Record<Table, string> = { tags: 'tag_holdings', lists: 'list_members' }
const COLUMN: Record<Table, string> = { tags: 'tag_id', lists: 'list_id' }

/** The next people who have the tag or are, or were, on the list: how many, and the last of them. */
export function nextWith(db: Database, table: Table, fromId: number, after: number, limit: number): { people: number, last: number } {
  return prepare<{ people: number, last: number }>(db, `
    SELECT count(*) AS people, coalesce(max(person_id), @after) AS last FROM (
      SELECT person_id FROM ${HELD[table]} WHERE ${COLUMN[table]} = @fromId AND person_id > @after ORDER BY person_id LIMIT @limit
    )`).get({ fromId, after, limit })!
}

/**
 * In a tag: since the earlier time, and for as long as the longer would have
 * been kept. In a list: what someone did about the other list stays.
 */
const COPY: Record<Table, string> = {
  tags: `INSERT INTO tag_holdings (tag_id, person_id, since_at, expires_at, event_id)
    SELECT @intoId, person_id, since_at, expires_at, event_id FROM tag_holdings
    WHERE tag_id = @fromId AND person_id > @after AND person_id <= @to
    ON CONFLICT (tag_id, person_id) DO UPDATE SET since_at = min(since_at, excluded.since_at),
      expires_at = CASE WHEN expires_at IS NULL OR excluded.expires_at IS NULL THEN NULL ELSE max(expires_at, excluded.expires_at) END`,
  lists: `INSERT OR IGNORE INTO list_members (list_id, person_id, joined_at, left_at, event_id)
    SELECT @intoId, person_id, joined_at, left_at, event_id FROM list_members
    WHERE list_id = @fromId AND person_id > @after AND person_id <= @to`,
}

/** What people of a span of ids have by the one they have by the other, too; segments look at them again. */
export function copyMarks(db: Database, table: Table, { fromId, intoId }: Merging, { after, to }: Span, at: Instant): void {
  prepare(db, COPY[table]).run({ fromId, intoId, after, to })
  prepare(db, `INSERT OR IGNORE INTO segment_queue (person_id, at, event_id)
    SELECT p.id, @at, (SELECT max(e.id) FROM events e WHERE e.person_id = p.id) FROM people p
    WHERE p.id > @after AND p.id <= @to
      AND EXISTS (SELECT 1 FROM ${HELD[table]} h WHERE h.${COLUMN[table]} = @fromId AND h.person_id = p.id)
      AND EXISTS (SELECT 1 FROM events e WHERE e.person_id = p.id)`).run({ fromId, after, to, at })
}

/** The one, and whatever was merged into it before: by whose events people may have it. */
const family = (table: Table) => `
  WITH RECURSIVE f(id) AS (SELECT @fromId UNION SELECT t.id FROM ${table} t JOIN f ON t.merged_into = f.id) SELECT id FROM f`

const forgetCopy = (table: Table) => `DELETE FROM ${HELD[table]} AS h WHERE h.${COLUMN[table]} = @intoId AND h.person_id = @personId
  AND EXISTS (SELECT 1 FROM events e WHERE e.id = h.event_id AND e.${COLUMN[table]} IN (${family(table)}))`

/** Copies anew for those who got, lost, joined or left the one since an event: what was copied of them before is out of date. */
export function copyChanged(db: Database, table: Table, { fromId, intoId }: Merging, sinceEventId: number, at: Instant): void {
  // Only the events since then are read, by their ids: no index is better.
  const changed = prepare<{ personId: number }>(db, `
    SELECT DISTINCT person_id AS personId FROM events NOT INDEXED WHERE id > ? AND ${COLUMN[table]} = ? AND person_id IS NOT NULL`)
  for (const { personId } of changed.all(sinceEventId, fromId)) {
    prepare(db, forgetCopy(table)).run({ fromId, intoId, personId })
    copyMarks(db, table, { fromId, intoId }, { after: personId - 1, to: personId }, at)
  }
}

/** Worded like the index outbox_waiting_by_list, so that it is used. */
const WAITS = `outbox WHERE status IN ('queued', 'failed')`

/** Whether anything waits to be sent by this list. */
export function isMailedBy(db: Database, listId: number): boolean {
  return prepare<{ is: 0 | 1 }>(db, `
    SELECT EXISTS (SELECT 1 FROM ${WAITS} AND list_id = @listId)
    OR EXISTS (SELECT 1 FROM ${CLAIMED} AND list_id = @listId) AS "is"`).get({ listId })!.is === 1
}

/** What waits to be sent on the one list, and the courses that mail it, go over to the other. */
export function moveMail(db: Database, fromListId: number, toListId: number): void {
  prepare(db, 'UPDATE courses SET list_id = ? WHERE list_id = ?').run(toListId, fromListId)
  for (const which of [WAITS, `${CLAIMED} AND status = 'leased'`]) {
    prepare(db, `UPDATE outbox SET list_id = ? WHERE id IN (SELECT id FROM ${which} AND list_id = ?)`).run(toListId, fromListId)
  }
}

/** Courses that joining one list starts are started by the other, too; null for by none. */
export function moveListWaysIn(db: Database, fromListId: number, toListId: number | null): void {
  if (toListId !== null) prepare(db, `
    INSERT OR IGNORE INTO course_ways_in_lists (course_id, list_id) SELECT course_id, ? FROM course_ways_in_lists
    WHERE list_id = ?`).run(toListId, fromListId)
  prepare(db, 'DELETE FROM course_ways_in_lists WHERE list_id = ?').run(fromListId)
}

/** Courses that one tag starts are started by the other, too; null for by none. */
export function moveWaysIn(db: Database, fromTagId: number, toTagId: number | null): void {
  if (toTagId !== null) prepare(
    db, 'INSERT OR IGNORE INTO course_ways_in (course_id, tag_id) SELECT course_id, ? FROM course_ways_in WHERE tag_id = ?',
  ).run(toTagId, fromTagId)
  prepare(db, 'DELETE FROM course_ways_in WHERE tag_id = ?').run(fromTagId)
}
