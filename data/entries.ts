/** Who stands outside a course: people who have what starts it, and those who come in at a time of their own. */
import type { SqlCondition } from '#core/audience/sql'
import type { Instant, LocalDate, ZoneName } from '#core/time/zone'
import type { Database } from './connection'
import { prepare } from './connection'
import type { Due } from './dueKind'

export const ENTRIES_DUE: Due = { rows: 'scheduled_entries WHERE is_held = 0', at: 'due_at' }

export interface EntryTriggers { courseId: number, tagIds: readonly number[], listIds: readonly number[] }

/** They have one of its tags, or are on one of its lists. */
const HAVE = `p.id IN (
  SELECT person_id FROM tag_holdings WHERE tag_id IN (SELECT value FROM json_each(?))
  UNION SELECT person_id FROM list_members WHERE left_at IS NULL AND list_id IN (SELECT value FROM json_each(?)))`

/** Of those, who can get mail, is not inside, and may come in: an expression over the row `p`. */
export function waitsOutside({ courseId, tagIds, listIds }: EntryTriggers, entry: SqlCondition | null): SqlCondition {
  return {
    sql: `${HAVE} AND p.status IN ('active', 'resting')
      AND NOT EXISTS (SELECT 1 FROM enrolments e WHERE e.person_id = p.id AND e.course_id = ?)
      AND NOT EXISTS (SELECT 1 FROM scheduled_entries c WHERE c.person_id = p.id AND c.course_id = ?)${entry ? ` AND ${entry.sql}` : ''}`,
    values: [JSON.stringify(tagIds), JSON.stringify(listIds), courseId, courseId, ...entry ? entry.values : []],
  }
}

/** How many have it, and how many of those wait outside. */
export function countOutside(db: Database, triggers: EntryTriggers, entry: SqlCondition | null): { total: number, waiting: number } {
  if (triggers.tagIds.length === 0 && triggers.listIds.length === 0) return { total: 0, waiting: 0 }
  const where = waitsOutside(triggers, entry)
  const total = prepare<{ n: number }>(db, `SELECT count(*) AS n FROM people p WHERE p.gone IS NULL AND ${HAVE}`).get(
    JSON.stringify(triggers.tagIds), JSON.stringify(triggers.listIds),
  )!.n
  const { n } = db.prepare(`SELECT count(*) AS n FROM people p WHERE p.gone IS NULL AND ${where.sql}`).get(...where.values) as { n: number }
  return { total, waiting: n }
}

/** Since when someone has what starts the course: the first of it; null if they have none of it. */
export function hasSince(db: Database, personId: number, { tagIds, listIds }: EntryTriggers): Instant | null {
  return prepare<{ at: Instant | null }>(db, `
    SELECT min(at) AS at FROM (
      SELECT since_at AS at FROM tag_holdings WHERE person_id = @personId AND tag_id IN (SELECT value FROM json_each(@tags))
      UNION ALL SELECT joined_at FROM list_members WHERE person_id = @personId AND left_at IS NULL
        AND list_id IN (SELECT value
          FROM json_each(@lists)))`).get({ personId, tags: JSON.stringify(tagIds), lists: JSON.stringify(listIds) })!.at
}

/** Some of those who wait outside, by id. */
export function someOutside(
  db: Database, triggers: EntryTriggers, entry: SqlCondition | null, limit: number,
): { id: number, zone: ZoneName | null }[] {
  const where = waitsOutside(triggers, entry)
  return db.prepare(`SELECT p.id, p.zone FROM people p WHERE p.gone IS NULL AND ${where.sql} ORDER BY p.id LIMIT ?`).all(
    ...where.values, limit,
  ) as { id: number, zone: ZoneName | null }[]
}

/* Who comes in at a time of their own */

export interface ScheduledEntry {
  id: number, courseId: number, personId: number, dueAt: Instant, occursOn: LocalDate | null, causeId: number,
}

const COMING = `
  SELECT id, course_id AS courseId, person_id AS personId, due_at AS dueAt, occurs_on AS occursOn, cause_id AS causeId
  FROM scheduled_entries`

/** Takes the place of what was known of their coming in. */
export function setScheduledEntry(db: Database, row: Omit<ScheduledEntry, 'id'>): void {
  prepare(db, `INSERT INTO scheduled_entries (course_id, person_id, due_at, occurs_on, cause_id)
    VALUES (@courseId, @personId, @dueAt, @occursOn, @causeId)
    ON CONFLICT (course_id, person_id) DO UPDATE SET due_at = excluded.due_at, occurs_on = excluded.occurs_on, cause_id = excluded.cause_id,
      is_held = 0`).run(row)
}

export function dueEntries(db: Database, at: Instant, limit: number): ScheduledEntry[] {
  return prepare<ScheduledEntry>(db, `${COMING} WHERE is_held = 0 AND due_at <= ? ORDER BY due_at, id LIMIT ?`).all(at, limit)
}

/** They wait until the course goes on. */
export function holdEntry(db: Database, row: Omit<ScheduledEntry, 'id'>): void {
  setScheduledEntry(db, row)
  prepare(db, 'UPDATE scheduled_entries SET is_held = 1 WHERE course_id = ? AND person_id = ?').run(row.courseId, row.personId)
}

/** It goes on: some of those who waited for that come in. Returns how many. */
export function releaseEntries(db: Database, courseId: number, at: Instant, limit: number): number {
  return prepare(db, `UPDATE scheduled_entries SET is_held = 0, due_at = max(due_at, @at)
    WHERE id IN (SELECT id
      FROM scheduled_entries WHERE course_id = @courseId AND is_held = 1 ORDER BY id LIMIT @limit)`).run({ courseId, at, limit }).changes
}

export function countWaitingToComeIn(db: Database, courseId: number): number {
  return prepare<{ n: number }>(db, 'SELECT count(*) AS n FROM scheduled_entries WHERE course_id = ? AND is_held = 1').get(courseId)!.n
}

export function endScheduledEntry(db: Database, courseId: number, personId: number): void {
  prepare(db, 'DELETE FROM scheduled_entries WHERE course_id = ? AND person_id = ?').run(courseId, personId)
}

export function countScheduledEntries(db: Database, courseId: number): { people: number, nextAt: Instant | null, lastAt: Instant | null } {
  return prepare<{ people: number, nextAt: Instant | null, lastAt: Instant | null }>(
    db, 'SELECT count(*) AS people, min(due_at) AS nextAt, max(due_at) AS lastAt FROM scheduled_entries WHERE course_id = ?',
  ).get(courseId)!
}

/** Who comes in until then, gathered by course, instant, date and zone. */
export function scheduledEntriesUntil(
  db: Database, until: Instant,
): (Pick<ScheduledEntry, 'courseId' | 'dueAt' | 'occursOn'> & { personZone: ZoneName | null, people: number })[] {
  return prepare<ReturnType<typeof scheduledEntriesUntil>[number]>(db, `
    SELECT c.course_id AS courseId, c.due_at AS dueAt, c.occurs_on AS occursOn, p.zone AS personZone, count(*) AS people
      FROM scheduled_entries c JOIN people p ON p.id = c.person_id
    WHERE c.is_held = 0 AND c.due_at <= ? AND NOT EXISTS (SELECT 1 FROM courses k WHERE k.id = c.course_id AND k.stopped_at IS NOT NULL)
    GROUP BY 1, 2, 3, 4`).all(until)
}

/** Something is known of them for a field: an expression over the row `p`. */
export const withField = (fieldId: number): SqlCondition => ({
  sql: 'EXISTS (SELECT 1 FROM field_values v WHERE v.field_id = ? AND v.person_id = p.id)', values: [fieldId],
})
