/** Saved segments, and who is in them as last looked at. */
import type { Condition } from '#core/audience/condition'
import type { Segment, SegmentInput } from '#core/audience/segment'
import type { Compiled } from '#core/audience/sql'
import type { Instant } from '#core/time/zone'
import type { Span } from './people'
import type { Database } from './connection'
import { q } from './connection'

export interface SegmentRow extends Segment {
  /** Whether everybody has been looked at since it was made or changed. */
  filled: boolean
  changedAt: Instant
}

/** What a segment that nobody sees is kept for: somebody falls silent, or a date of theirs comes. */
export type Watch = { kind: 'became-silent', days: number } | { kind: 'date-arrived', fieldId: number, days: number, yearly: boolean }

/** A segment whose members are kept up to date, seen or not. */
export interface WatchedSegment {
  id: number
  condition: Condition
  filled: boolean
  /** Up to this person, while it is filled. */
  filledTo: number
  watch: Watch | null
}

type Raw = Omit<SegmentRow, 'condition' | 'filled'> & { condition: string, filled: 0 | 1 }

const SEGMENT = 'SELECT id, name, note, condition, code, filled, changed_at AS changedAt FROM segments'

const parse = (row: Raw): SegmentRow => ({ ...row, condition: JSON.parse(row.condition) as Condition, filled: row.filled === 1 })

/** The ready ones first, then by name. */
export function allSegments(db: Database): SegmentRow[] {
  return q<Raw>(db, `${SEGMENT} WHERE watch IS NULL AND gone = 0 ORDER BY code IS NULL, CASE WHEN code IS NULL THEN 0 ELSE id END, name COLLATE NOCASE`).all().map(parse)
}

export function findSegment(db: Database, id: number): SegmentRow | undefined {
  const row = q<Raw>(db, `${SEGMENT} WHERE id = ? AND gone = 0`).get(id)
  return row && parse(row)
}

export function findSegmentByName(db: Database, name: string): SegmentRow | undefined {
  const row = q<Raw>(db, `${SEGMENT} WHERE name = ? AND watch IS NULL`).get(name)
  return row && parse(row)
}

export function watchedSegments(db: Database): WatchedSegment[] {
  return q<{ id: number, condition: string, filled: 0 | 1, filledTo: number, watch: string | null }>(db, `
    SELECT id, condition, filled, filled_to AS filledTo, watch FROM segments WHERE gone = 0 ORDER BY id`).all()
    .map(({ condition, filled, watch, ...row }) => ({
      ...row, condition: JSON.parse(condition) as Condition, filled: filled === 1,
      watch: watch === null ? null : JSON.parse(watch) as Watch,
    }))
}

export function insertWatchSegment(db: Database, watch: Watch, condition: Condition, at: Instant): void {
  const said = JSON.stringify(watch)
  q(db, 'INSERT INTO segments (name, condition, filled, watch, created_at, changed_at) VALUES (?, ?, NOT EXISTS (SELECT 1 FROM people), ?, ?, ?)').run(`watch ${said}`, JSON.stringify(condition), said, at, at)
}

/** In a workspace without people there is nobody to be looked at first. */
export function insertSegment(db: Database, segment: SegmentInput & { code: string | null }, at: Instant): number {
  return Number(q(db, 'INSERT INTO segments (name, note, condition, code, filled, created_at, changed_at) VALUES (?, ?, ?, ?, NOT EXISTS (SELECT 1 FROM people), ?, ?)')
    .run(segment.name, segment.note, JSON.stringify(segment.condition), segment.code, at, at).lastInsertRowid)
}

/** Keeps what it was last looked at as; who calls decides who must be looked at anew. */
export function updateSegment(db: Database, id: number, segment: SegmentInput, at: Instant): void {
  q(db, 'UPDATE segments SET name = ?, note = ?, condition = ?, changed_at = ? WHERE id = ?').run(segment.name, segment.note, JSON.stringify(segment.condition), at, id)
}

/** Nothing finds it any more, and its name is free; who was in it is cleared away later. */
export function endSegment(db: Database, id: number): void {
  q(db, `UPDATE segments SET gone = 1, name = 'gone ' || id WHERE id = ?`).run(id)
}

/* Who is in them */

/** Everybody has to be looked at anew: the condition, or something it rests on, is another one. */
export function emptySegments(db: Database, ids: number[]): void {
  q(db, 'UPDATE segments SET filled = 0, filled_to = 0 WHERE id IN (SELECT value FROM json_each(?))').run(JSON.stringify(ids))
}

/** Sets who of a span of people is in a segment, without a word about it: not the people changed, but what is asked. */
export function fillSegment(db: Database, id: number, { after, to }: Span, where: Compiled): void {
  q(db, 'DELETE FROM segment_people WHERE segment_id = ? AND person_id > ? AND person_id <= ?').run(id, after, to)
  db.prepare(`INSERT INTO segment_people (segment_id, person_id, inside)
    SELECT ?, p.id, 1 FROM people p WHERE p.gone IS NULL AND p.id > ? AND p.id <= ? AND ${where.sql}`).run(id, after, to, ...where.values)
}

export function setFilledTo(db: Database, id: number, personId: number, isFilled: boolean): void {
  q(db, 'UPDATE segments SET filled_to = ?, filled = ? WHERE id = ?').run(personId, isFilled ? 1 : 0, id)
}

/** Puts people of a span into the row of those to be looked at, at `at`; who stands there already stays. */
export function lookAgain(db: Database, { after, to }: Span, where: Compiled, at: Instant): void {
  db.prepare(`INSERT OR IGNORE INTO looks (person_id, at, event_id)
    SELECT p.id, ?, (SELECT max(e.id) FROM events e WHERE e.person_id = p.id) FROM people p
    WHERE p.gone IS NULL AND p.id > ? AND p.id <= ? AND EXISTS (SELECT 1 FROM events e WHERE e.person_id = p.id) AND ${where.sql}`).run(at, after, to, ...where.values)
}

export interface Look { personId: number, at: Instant, eventId: number }

/** People to be looked at whose time has come, in the order of time. */
export function dueLooks(db: Database, at: Instant, limit: number): Look[] {
  return q<Look>(db, 'SELECT person_id AS personId, at, event_id AS eventId FROM looks WHERE at <= ? ORDER BY at, person_id LIMIT ?').all(at, limit)
}

export function lookFor(db: Database, personId: number): Look | undefined {
  return q<Look>(db, 'SELECT person_id AS personId, at, event_id AS eventId FROM looks WHERE person_id = ?').get(personId)
}

export function endLook(db: Database, personId: number): void {
  q(db, 'DELETE FROM looks WHERE person_id = ?').run(personId)
}

/** People for whom time alone may have turned something, in the order of time. */
export function dueTurns(db: Database, at: Instant, limit: number): { personId: number, at: Instant }[] {
  return q<{ personId: number, at: Instant }>(db, `
    SELECT person_id AS personId, min(turns_at) AS at FROM (SELECT person_id, turns_at FROM segment_people WHERE turns_at IS NOT NULL AND turns_at <= ? ORDER BY turns_at, person_id LIMIT ?)
    GROUP BY person_id ORDER BY 2, 1`).all(at, limit)
}

export interface Standing { segmentId: number, inside: 0 | 1, turnsAt: Instant | null }

export function standingsOf(db: Database, personId: number): Standing[] {
  return q<Standing>(db, 'SELECT segment_id AS segmentId, inside, turns_at AS turnsAt FROM segment_people WHERE person_id = ?').all(personId)
}

/** Somebody who is outside and will never come in by time alone needs no row. */
export function setStanding(db: Database, personId: number, { segmentId, inside, turnsAt }: Standing): void {
  if (!inside && turnsAt === null) q(db, 'DELETE FROM segment_people WHERE segment_id = ? AND person_id = ?').run(segmentId, personId)
  else {
    q(db, `INSERT INTO segment_people (segment_id, person_id, inside, turns_at) VALUES (?, ?, ?, ?)
      ON CONFLICT (segment_id, person_id) DO UPDATE SET inside = excluded.inside, turns_at = excluded.turns_at`).run(segmentId, personId, inside, turnsAt)
  }
}

/** As last looked at, per segment. */
export function insideCounts(db: Database): Map<number, number> {
  return new Map(q<{ id: number, n: number }>(db, 'SELECT segment_id AS id, count(*) AS n FROM segment_people WHERE inside = 1 GROUP BY segment_id').all().map(row => [row.id, row.n]))
}

export function segmentsOfPerson(db: Database, personId: number): { id: number, name: string }[] {
  return q<{ id: number, name: string }>(db, `
    SELECT s.id, s.name FROM segment_people i JOIN segments s ON s.id = i.segment_id WHERE i.person_id = ? AND i.inside = 1 AND s.watch IS NULL AND s.gone = 0 ORDER BY s.name COLLATE NOCASE`).all(personId)
}
