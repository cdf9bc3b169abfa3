/** Saved segments, and who is in them as last looked at. */
import type { Condition } from '#core/audience/condition'
import type { Segment, SegmentInput } from '#core/audience/segment'
import type { SqlCondition } from '#core/audience/sql'
import type { Instant } from '#core/time/zone'
import type { Span } from './people'
import type { Database } from './connection'
import { prepare } from './connection'
import { keepSteady } from './kept'
import type { Due } from './dueKind'

export const SEGMENT_QUEUE_DUE: Due = { rows: 'segment_queue WHERE 1', at: 'at' }
export const REEVALUATIONS_DUE: Due = { rows: 'segment_people WHERE reevaluate_at IS NOT NULL', at: 'reevaluate_at' }

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
  return keepSteady(db, 'segments', () => prepare<Raw>(db, `
    ${SEGMENT} WHERE watch IS NULL AND gone = 0
    ORDER BY code IS NULL, CASE WHEN code IS NULL THEN 0 ELSE id END, name COLLATE NOCASE`).all().map(parse))
}

export function findSegment(db: Database, id: number): SegmentRow | undefined {
  const row = prepare<Raw>(db, `${SEGMENT} WHERE id = ? AND gone = 0`).get(id)
  return row && parse(row)
}

export function findSegmentByName(db: Database, name: string): SegmentRow | undefined {
  const row = prepare<Raw>(db, `${SEGMENT} WHERE name = ? AND watch IS NULL`).get(name)
  return row && parse(row)
}

export function watchedSegments(db: Database): WatchedSegment[] {
  type Row = { id: number, condition: string, filled: 0 | 1, filledTo: number, watch: string | null }
  return keepSteady(db, 'watched segments', () => prepare<Row>(db, `
    SELECT id, condition, filled, filled_to AS filledTo, watch FROM segments WHERE gone = 0 ORDER BY id`).all()
    .map(({ condition, filled, watch, ...row }) => ({
      ...row, condition: JSON.parse(condition) as Condition, filled: filled === 1,
      watch: watch === null ? null : JSON.parse(watch) as Watch,
    })))
}

export function insertWatchSegment(db: Database, watch: Watch, condition: Condition, at: Instant): void {
  const said = JSON.stringify(watch)
  prepare(db, `
    INSERT INTO segments (name, condition, filled, watch, created_at, changed_at)
    VALUES (?, ?, NOT EXISTS (SELECT 1 FROM people), ?, ?, ?)`).run(`watch ${said}`, JSON.stringify(condition), said, at, at)
}

/** In a workspace without people there is nobody to be looked at first. */
export function insertSegment(db: Database, segment: SegmentInput & { code: string | null }, at: Instant): number {
  return Number(prepare(db, `
    INSERT INTO segments (name, note, condition, code, filled, created_at, changed_at)
    VALUES (?, ?, ?, ?, NOT EXISTS (SELECT 1 FROM people), ?, ?)`)
    .run(segment.name, segment.note, JSON.stringify(segment.condition), segment.code, at, at).lastInsertRowid)
}

/** Keeps what it was last looked at as; who calls decides who must be looked at anew. */
export function updateSegment(db: Database, id: number, segment: SegmentInput, at: Instant): void {
  prepare(db, 'UPDATE segments SET name = ?, note = ?, condition = ?, changed_at = ? WHERE id = ?').run(
    segment.name, segment.note, JSON.stringify(segment.condition), at, id,
  )
}

/** Nothing finds it any more, and its name is free; who was in it is cleared away later. */
export function endSegment(db: Database, id: number): void {
  prepare(db, `UPDATE segments SET gone = 1, name = 'gone ' || id WHERE id = ?`).run(id)
}

/* Who is in them */

/** Everybody has to be looked at anew: the condition, or something it rests on, is another one. */
export function emptySegments(db: Database, ids: number[]): void {
  prepare(db, 'UPDATE segments SET filled = 0, filled_to = 0 WHERE id IN (SELECT value FROM json_each(?))').run(JSON.stringify(ids))
}

/** Sets who of a span of people is in a segment, without a word about it: not the people changed, but what is asked. */
export function fillSegment(db: Database, id: number, { after, to }: Span, where: SqlCondition): void {
  prepare(db, 'DELETE FROM segment_people WHERE segment_id = ? AND person_id > ? AND person_id <= ?').run(id, after, to)
  db.prepare(`INSERT INTO segment_people (segment_id, person_id, inside)
    SELECT ?, p.id, 1 FROM people p WHERE p.gone IS NULL AND p.id > ? AND p.id <= ? AND ${where.sql}`).run(id, after, to, ...where.values)
}

export function setFilledTo(db: Database, id: number, personId: number, isFilled: boolean): void {
  prepare(db, 'UPDATE segments SET filled_to = ?, filled = ? WHERE id = ?').run(personId, isFilled ? 1 : 0, id)
}

/** Puts people of a span into the row of those to be looked at, at `at`; who stands there already stays. */
export function enqueueSpan(db: Database, { after, to }: Span, where: SqlCondition, at: Instant): void {
  db.prepare(`INSERT OR IGNORE INTO segment_queue (person_id, at, event_id)
    SELECT p.id, ?, (SELECT max(e.id) FROM events e WHERE e.person_id = p.id) FROM people p
    WHERE p.gone IS NULL AND p.id > ? AND p.id <= ? AND EXISTS (SELECT 1 FROM events e WHERE e.person_id = p.id)
      AND ${where.sql}`).run(at, after, to, ...where.values)
}

export interface QueuedPerson { personId: number, at: Instant, eventId: number }

/** People to be looked at whose time has come, in the order of time. */
export function dueInSegmentQueue(db: Database, at: Instant, limit: number): QueuedPerson[] {
  return prepare<QueuedPerson>(
    db, 'SELECT person_id AS personId, at, event_id AS eventId FROM segment_queue WHERE at <= ? ORDER BY at, person_id LIMIT ?',
  ).all(at, limit)
}

export function queuedFor(db: Database, personId: number): QueuedPerson | undefined {
  return prepare<QueuedPerson>(
    db, 'SELECT person_id AS personId, at, event_id AS eventId FROM segment_queue WHERE person_id = ?',
  ).get(personId)
}

export function dequeue(db: Database, personId: number): void {
  prepare(db, 'DELETE FROM segment_queue WHERE person_id = ?').run(personId)
}

/** People for whom time alone may have turned something, in the order of time. */
export function dueReevaluations(db: Database, at: Instant, limit: number): { personId: number, at: Instant }[] {
  return prepare<{ personId: number, at: Instant }>(db, `
    SELECT person_id AS personId, min(reevaluate_at) AS at
      FROM (SELECT person_id,
        reevaluate_at FROM segment_people WHERE reevaluate_at IS NOT NULL AND reevaluate_at <= ? ORDER BY reevaluate_at, person_id LIMIT ?)
    GROUP BY person_id ORDER BY 2, 1`).all(at, limit)
}

export interface SegmentStanding { segmentId: number, inside: 0 | 1, reevaluateAt: Instant | null }

export function segmentStandingsOf(db: Database, personId: number): SegmentStanding[] {
  return prepare<SegmentStanding>(
    db, 'SELECT segment_id AS segmentId, inside, reevaluate_at AS reevaluateAt FROM segment_people WHERE person_id = ?',
  ).all(personId)
}

/** Somebody who is outside and will never come in by time alone needs no row. */
export function setSegmentStanding(db: Database, personId: number, { segmentId, inside, reevaluateAt }: SegmentStanding): void {
  if (!inside && reevaluateAt === null) prepare(db, 'DELETE FROM segment_people WHERE segment_id = ? AND person_id = ?').run(
    segmentId, personId,
  )
  else {
    prepare(db, `INSERT INTO segment_people (segment_id, person_id, inside, reevaluate_at) VALUES (?, ?, ?, ?)
      ON CONFLICT (segment_id, person_id) DO UPDATE SET inside = excluded.inside,
        reevaluate_at = excluded.reevaluate_at`).run(segmentId, personId, inside, reevaluateAt)
  }
}

/** As last looked at, per segment. */
export function insideCounts(db: Database): Map<number, number> {
  return new Map(prepare<{ id: number, n: number }>(
    db, 'SELECT segment_id AS id, count(*) AS n FROM segment_people WHERE inside = 1 GROUP BY segment_id',
  ).all().map(row => [row.id, row.n]))
}

export function segmentsOfPerson(db: Database, personId: number): { id: number, name: string }[] {
  return prepare<{ id: number, name: string }>(db, `
    SELECT s.id, s.name FROM segment_people i JOIN segments s ON s.id = i.segment_id WHERE i.person_id = ? AND i.inside = 1
      AND s.watch IS NULL AND s.gone = 0 ORDER BY s.name COLLATE NOCASE`).all(personId)
}
