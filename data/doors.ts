/** Who stands outside a course: people who have what starts it, and those who come in at a time of their own. */
import type { Compiled } from '#core/audience/sql'
import type { Instant, LocalDate, ZoneName } from '#core/time/zone'
import type { Database } from './connection'
import { q } from './connection'

export interface Door { courseId: number, tagIds: readonly number[], listIds: readonly number[] }

/** They have one of its tags, or are on one of its lists. */
const HAVE = `p.id IN (SELECT person_id FROM tag_holdings WHERE tag_id IN (SELECT value FROM json_each(?)) UNION SELECT person_id FROM list_members WHERE left_at IS NULL AND list_id IN (SELECT value FROM json_each(?)))`

/** Of those, who can get mail, is not inside, and may come in: an expression over the row `p`. */
export function waitsOutside({ courseId, tagIds, listIds }: Door, entry: Compiled | null): Compiled {
  return {
    sql: `${HAVE} AND p.status IN ('active', 'resting') AND NOT EXISTS (SELECT 1 FROM enrolments e WHERE e.person_id = p.id AND e.course_id = ?) AND NOT EXISTS (SELECT 1 FROM comings_in c WHERE c.person_id = p.id AND c.course_id = ?)${entry ? ` AND ${entry.sql}` : ''}`,
    values: [JSON.stringify(tagIds), JSON.stringify(listIds), courseId, courseId, ...entry ? entry.values : []],
  }
}

/** How many have it, and how many of those wait outside. */
export function countOutside(db: Database, door: Door, entry: Compiled | null): { total: number, waiting: number } {
  if (door.tagIds.length === 0 && door.listIds.length === 0) return { total: 0, waiting: 0 }
  const where = waitsOutside(door, entry)
  const total = q<{ n: number }>(db, `SELECT count(*) AS n FROM people p WHERE p.gone IS NULL AND ${HAVE}`).get(JSON.stringify(door.tagIds), JSON.stringify(door.listIds))!.n
  const { n } = db.prepare(`SELECT count(*) AS n FROM people p WHERE p.gone IS NULL AND ${where.sql}`).get(...where.values) as { n: number }
  return { total, waiting: n }
}

/** Since when someone has what starts the course: the first of it; null if they have none of it. */
export function hasSince(db: Database, personId: number, { tagIds, listIds }: Door): Instant | null {
  return q<{ at: Instant | null }>(db, `
    SELECT min(at) AS at FROM (
      SELECT since_at AS at FROM tag_holdings WHERE person_id = @personId AND tag_id IN (SELECT value FROM json_each(@tags))
      UNION ALL SELECT joined_at FROM list_members WHERE person_id = @personId AND left_at IS NULL AND list_id IN (SELECT value FROM json_each(@lists)))`).get({ personId, tags: JSON.stringify(tagIds), lists: JSON.stringify(listIds) })!.at
}

/** Some of those who wait outside, by id. */
export function someOutside(db: Database, door: Door, entry: Compiled | null, limit: number): { id: number, zone: ZoneName | null }[] {
  const where = waitsOutside(door, entry)
  return db.prepare(`SELECT p.id, p.zone FROM people p WHERE p.gone IS NULL AND ${where.sql} ORDER BY p.id LIMIT ?`).all(...where.values, limit) as { id: number, zone: ZoneName | null }[]
}

/* Who comes in at a time of their own */

export interface ComingRow { id: number, courseId: number, personId: number, dueAt: Instant, occursOn: LocalDate | null, causeId: number }

const COMING = 'SELECT id, course_id AS courseId, person_id AS personId, due_at AS dueAt, occurs_on AS occursOn, cause_id AS causeId FROM comings_in'

/** Takes the place of what was known of their coming in. */
export function setComing(db: Database, row: Omit<ComingRow, 'id'>): void {
  q(db, `INSERT INTO comings_in (course_id, person_id, due_at, occurs_on, cause_id) VALUES (@courseId, @personId, @dueAt, @occursOn, @causeId)
    ON CONFLICT (course_id, person_id) DO UPDATE SET due_at = excluded.due_at, occurs_on = excluded.occurs_on, cause_id = excluded.cause_id, waits = 0`).run(row)
}

export function dueComings(db: Database, at: Instant, limit: number): ComingRow[] {
  return q<ComingRow>(db, `${COMING} WHERE waits = 0 AND due_at <= ? ORDER BY due_at, id LIMIT ?`).all(at, limit)
}

/** They wait until the course goes on. */
export function letComingWait(db: Database, row: Omit<ComingRow, 'id'>): void {
  setComing(db, row)
  q(db, 'UPDATE comings_in SET waits = 1 WHERE course_id = ? AND person_id = ?').run(row.courseId, row.personId)
}

/** It goes on: some of those who waited for that come in. Returns how many. */
export function releaseComings(db: Database, courseId: number, at: Instant, limit: number): number {
  return q(db, `UPDATE comings_in SET waits = 0, due_at = max(due_at, @at)
    WHERE id IN (SELECT id FROM comings_in WHERE course_id = @courseId AND waits = 1 ORDER BY id LIMIT @limit)`).run({ courseId, at, limit }).changes
}

export function countWaitingToComeIn(db: Database, courseId: number): number {
  return q<{ n: number }>(db, 'SELECT count(*) AS n FROM comings_in WHERE course_id = ? AND waits = 1').get(courseId)!.n
}

export function endComing(db: Database, courseId: number, personId: number): void {
  q(db, 'DELETE FROM comings_in WHERE course_id = ? AND person_id = ?').run(courseId, personId)
}

export function countComings(db: Database, courseId: number): { people: number, nextAt: Instant | null, lastAt: Instant | null } {
  return q<{ people: number, nextAt: Instant | null, lastAt: Instant | null }>(db, 'SELECT count(*) AS people, min(due_at) AS nextAt, max(due_at) AS lastAt FROM comings_in WHERE course_id = ?').get(courseId)!
}

/** Who comes in until then, gathered by course, instant, date and zone. */
export function comingsUntil(db: Database, until: Instant): (Pick<ComingRow, 'courseId' | 'dueAt' | 'occursOn'> & { personZone: ZoneName | null, people: number })[] {
  return q<ReturnType<typeof comingsUntil>[number]>(db, `
    SELECT c.course_id AS courseId, c.due_at AS dueAt, c.occurs_on AS occursOn, p.zone AS personZone, count(*) AS people FROM comings_in c JOIN people p ON p.id = c.person_id
    WHERE c.waits = 0 AND c.due_at <= ? AND NOT EXISTS (SELECT 1 FROM courses k WHERE k.id = c.course_id AND k.stopped_at IS NOT NULL)
    GROUP BY 1, 2, 3, 4`).all(until)
}

/** Something is known of them for a field: an expression over the row `p`. */
export const withField = (fieldId: number): Compiled => ({
  sql: 'EXISTS (SELECT 1 FROM field_values v WHERE v.field_id = ? AND v.person_id = p.id)', values: [fieldId],
})
