/** Journeys through courses, and what is watched beside them. */
import { MOST_HOPS } from '#core/sequence/advance'
import type { Enrolment } from '#core/sequence/journey'
import type { Instant, LocalDate } from '#core/time/zone'
import type { CourseCounts } from '#core/views/course'
import type { SqlCondition } from '#core/audience/sql'
import type { Database } from './connection'
import { prepare } from './connection'
import { keep } from './kept'
import type { Due } from './dueKind'

export const STEPS_DUE: Due = { rows: 'enrolments WHERE due_at IS NOT NULL', at: 'due_at' }
export const TIMEOUTS_DUE: Due = { rows: 'timeouts WHERE done_at IS NULL', at: 'due_at' }

export interface EnrolmentRow extends Enrolment {
  id: number
  courseId: number
  personId: number
  visit: number
  versionId: number
  eventId: number
  endedAt: Instant | null
  /** Since when the owner lets them stand still. */
  stillSince: Instant | null
  /** Of a course of dates: which return of their date this is. */
  occursOn: LocalDate | null
  /** The last of the replannings of everybody that it was planned by. */
  replanId: number
  /** The event whose cascade this journey belongs to; null once time has passed in it, or if it begins a story of its own. */
  rootId: number | null
}

interface Raw extends Omit<EnrolmentRow, 'doneStepIds' | 'ownAct'> { doneStepIds: string, ownAct: 0 | 1 }

const ENROLMENT = `
  SELECT id, course_id AS courseId, person_id AS personId, visit, version_id AS versionId, status, joined_at AS joinedAt,
    previous_at AS previousAt, still_ms AS stillMs, step_id AS stepId, due_at AS dueAt, held_since AS heldSince, limit_at AS limitAt, hops,
      paused_at AS pausedAt, resumed_at AS resumedAt,
    done_steps AS doneStepIds, own_act AS ownAct, replan_id AS replanId, root_id AS rootId, event_id AS eventId, ended_at AS endedAt,
      still_since AS stillSince, occurs_on AS occursOn FROM enrolments`

/** The columns have the names of what they become: to take some out of two dozen takes as long as to read them from the database. */
const parse = (row: Raw): EnrolmentRow => ({ ...row, doneStepIds: JSON.parse(row.doneStepIds), ownAct: row.ownAct === 1 })

export function findEnrolment(db: Database, id: number): EnrolmentRow | undefined {
  const row = prepare<Raw>(db, `${ENROLMENT} WHERE id = ?`).get(id)
  return row && parse(row)
}

/** Where this person waits in a hold. */
export function holdsOfPerson(db: Database, personId: number): EnrolmentRow[] {
  return openEnrolmentsOfPerson(db, personId).filter(({ heldSince }) => heldSince !== null)
}

/** All visits of one person to one course, latest first. */
export function visitsOf(db: Database, courseId: number, personId: number): EnrolmentRow[] {
  return prepare<Raw>(db, `${ENROLMENT} WHERE course_id = ? AND person_id = ? ORDER BY visit DESC`).all(courseId, personId).map(parse)
}

export function enrolmentsOfPerson(db: Database, personId: number): EnrolmentRow[] {
  return prepare<Raw>(db, `${ENROLMENT} WHERE person_id = ? ORDER BY id`).all(personId).map(parse)
}

export function openEnrolmentsOfPerson(db: Database, personId: number): EnrolmentRow[] {
  return keep(db, ['enrolments'], `open enrolments of ${personId}`, () =>
    prepare<Raw>(db, `${ENROLMENT} WHERE person_id = ? AND status = 'open' ORDER BY id`).all(personId).map(parse))
}

/** Some of those inside who stand in an older version than this. */
export function enrolmentsBehind(db: Database, courseId: number, versionId: number, limit: number): EnrolmentRow[] {
  return prepare<Raw>(db, `${ENROLMENT} WHERE course_id = ? AND version_id < ? AND status = 'open' ORDER BY version_id, id LIMIT ?`).all(
    courseId, versionId, limit,
  ).map(parse)
}

export function countInside(db: Database, courseId: number): number {
  return prepare<{ n: number }>(db, `SELECT count(*) AS n FROM enrolments WHERE course_id = ? AND status = 'open'`).get(courseId)!.n
}

const AT_THE_END = `status = 'finished' AND occurs_on IS NULL
  AND visit = (SELECT max(visit) FROM enrolments o WHERE o.course_id = e.course_id AND o.person_id = e.person_id)`

/** They have come to the end of a course and are not in it again: an expression over the row `p`. */
export const finishedCourse = (courseId: number): SqlCondition => ({
  sql: `EXISTS (SELECT 1 FROM enrolments e WHERE e.person_id = p.id AND e.course_id = ? AND ${AT_THE_END})`, values: [courseId],
})

export function countFinished(db: Database, courseId: number): number {
  return prepare<{ n: number }>(db, `
    SELECT count(DISTINCT person_id) AS n FROM enrolments e WHERE course_id = ? AND ${AT_THE_END}`).get(courseId)!.n
}

/** Of this person's journeys the one in which something was due first before that instant. */
export function firstDueOfPerson(db: Database, personId: number, before: Instant): EnrolmentRow | undefined {
  const due = openEnrolmentsOfPerson(db, personId).filter(({ dueAt }) => dueAt !== null && dueAt < before)
  return due.sort((a, b) => a.dueAt! - b.dueAt! || a.id - b.id)[0]
}

/** Journeys with a step due at exactly this instant or before, in order of time and id. */
export function dueEnrolments(db: Database, at: Instant, limit: number): EnrolmentRow[] {
  return prepare<Raw>(db, `${ENROLMENT} WHERE due_at IS NOT NULL AND due_at <= ? ORDER BY due_at, id LIMIT ?`).all(at, limit).map(parse)
}

/** Some who are not as their course is: under way in one that is stopped, or standing still only because it was. */
export function enrolmentsToStopOrResume(db: Database, courseId: number, stopped: boolean, limit: number): EnrolmentRow[] {
  const is = stopped
    ? 'paused_at IS NULL'
    : `paused_at IS NOT NULL AND still_since IS NULL AND person_id NOT IN (SELECT id FROM people
      WHERE paused_until_at IS NOT NULL OR status = 'resting')`
  return prepare<Raw>(db, `${ENROLMENT} WHERE course_id = ? AND status = 'open' AND ${is} ORDER BY id LIMIT ?`).all(courseId, limit)
    .map(parse)
}

export function insertEnrolment(db: Database, row: Omit<EnrolmentRow, 'id' | 'endedAt' | 'stillSince'>): number {
  return Number(prepare(db, `
    INSERT INTO enrolments (course_id,
      person_id, visit, version_id, status, joined_at, previous_at, step_id, due_at, held_since, limit_at, hops, paused_at, resumed_at,
      done_steps, own_act, event_id, occurs_on, replan_id, root_id)
    VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`).run(
    row.courseId, row.personId, row.visit, row.versionId, row.status, row.joinedAt, row.previousAt, row.stepId, row.dueAt, row.heldSince,
    row.limitAt, row.hops,
    row.pausedAt, row.resumedAt, JSON.stringify(row.doneStepIds), row.ownAct ? 1 : 0, row.eventId, row.occursOn, row.replanId,
    row.rootId).lastInsertRowid)
}

/** As it is now. `before`: as it was saved last, by which what most of them change is written without touching every index. */
export function saveEnrolment(db: Database, row: EnrolmentRow, before: EnrolmentRow): void {
  const steps = row.doneStepIds === before.doneStepIds ? null : JSON.stringify(row.doneStepIds)
  const isMove = (['versionId', 'status', 'stillMs', 'pausedAt', 'resumedAt', 'heldSince', 'limitAt', 'endedAt', 'rootId'] as const)
    .every(column => row[column] === before[column])
  if (isMove) {
    prepare(
      db, 'UPDATE enrolments SET previous_at = ?, step_id = ?, due_at = ?, hops = ?, done_steps = coalesce(?, done_steps) WHERE id = ?',
    )
      .run(row.previousAt, row.stepId, row.dueAt, row.hops, steps, row.id)
    return
  }
  prepare(db, `UPDATE enrolments SET version_id = ?, status = ?, previous_at = ?, still_ms = ?, step_id = ?, due_at = ?, held_since = ?,
    limit_at = ?, hops = ?,
    paused_at = ?, resumed_at = ?, done_steps = ?, ended_at = ?, root_id = ? WHERE id = ?`)
    .run(row.versionId, row.status, row.previousAt, row.stillMs, row.stepId, row.dueAt, row.heldSince, row.limitAt, row.hops,
      row.pausedAt, row.resumedAt, JSON.stringify(row.doneStepIds), row.endedAt, row.rootId, row.id)
}

/** Where people stand in a course, or before one of its steps, the longest first. */
export function whoStands(db: Database, courseId: number, stepId: string | null, limit: number, offset: number): {
  id: number, personId: number, name: string, stepId: string | null, sinceAt: Instant, dueAt: Instant | null, held: 0 | 1,
  stillSince: Instant | null, pausedUntilAt: Instant | null, occursOn: LocalDate | null,
}[] {
  return prepare<ReturnType<typeof whoStands>[number]>(db, `
    SELECT e.id, e.person_id AS personId, CASE p.first_name WHEN '' THEN p.address ELSE p.first_name || ', ' || p.address END AS name,
      e.step_id AS stepId,
      coalesce(e.held_since, e.previous_at) AS sinceAt, e.due_at AS dueAt, e.held_since IS NOT NULL AS held, e.still_since AS stillSince,
        p.paused_until_at AS pausedUntilAt, e.occurs_on AS occursOn
    FROM (SELECT * FROM enrolments
      WHERE course_id = @courseId AND status = 'open' AND (@stepId IS NULL OR step_id = @stepId) ORDER BY coalesce(held_since, previous_at),
        id LIMIT @limit OFFSET @offset) e
    JOIN people p ON p.id = e.person_id ORDER BY sinceAt, e.id`).all({ courseId, stepId, limit, offset })
}

/** Of one course, or of all. */
export function courseCounts(db: Database, courseId: number | null = null): Map<number, CourseCounts> {
  const rows = prepare<CourseCounts & { courseId: number }>(db, `
    SELECT course_id AS courseId, count(DISTINCT CASE status WHEN 'open' THEN person_id END) AS inside,
      count(DISTINCT person_id) AS started,
      count(DISTINCT CASE status WHEN 'finished' THEN person_id END) AS finished,
        count(DISTINCT CASE status WHEN 'left' THEN person_id END) AS left
    FROM enrolments ${courseId === null ? '' : 'WHERE course_id = @courseId'}
      GROUP BY course_id`).all(courseId === null ? [] : { courseId })
  return new Map(rows.map(({ courseId, ...counts }) => [courseId, counts]))
}

/** How many stand before each step, by course and step. */
export function peopleByStep(db: Database): Map<number, Map<string, number>> {
  const counts = new Map<number, Map<string, number>>()
  const rows = prepare<{ courseId: number, stepId: string, people: number }>(db, `
    SELECT course_id AS courseId, step_id AS stepId, count(*) AS people FROM enrolments WHERE status = 'open' AND step_id IS NOT NULL
    GROUP BY course_id, step_id`).all()
  for (const { courseId, stepId, people } of rows) counts.set(courseId, (counts.get(courseId) ?? new Map()).set(stepId, people))
  return counts
}

/** Who was stopped because a jump goes round without end. */
export function countStopped(db: Database, courseId: number): number {
  return prepare<{ n: number }>(
    db, `SELECT count(*) AS n FROM enrolments WHERE course_id = ? AND status = 'open' AND due_at IS NULL AND hops >= ${MOST_HOPS}`,
  ).get(courseId)!.n
}

/** The owner lets someone stand still there, or go on. */
export function setStill(db: Database, id: number, since: Instant | null): void {
  prepare(db, 'UPDATE enrolments SET still_since = ? WHERE id = ?').run(since, id)
}

export function setOccursOn(db: Database, id: number, date: LocalDate): void {
  prepare(db, 'UPDATE enrolments SET occurs_on = ? WHERE id = ?').run(date, id)
}

/* Watches */

export interface TimeoutRow { id: number, outboxId: number, reaction: string, limitAt: Instant, dueAt: Instant }

export function insertTimeout(db: Database, row: Omit<TimeoutRow, 'id'>): void {
  prepare(db, 'INSERT INTO timeouts (outbox_id, reaction, limit_at, due_at) VALUES (?, ?, ?, ?)').run(
    row.outboxId, row.reaction, row.limitAt, row.dueAt,
  )
}

export function dueTimeouts(db: Database, at: Instant, limit: number): TimeoutRow[] {
  return prepare<TimeoutRow>(db, `
    SELECT id, outbox_id AS outboxId, reaction, limit_at AS limitAt, due_at AS dueAt FROM timeouts
    WHERE done_at IS NULL AND due_at <= ? ORDER BY due_at, id LIMIT ?`).all(at, limit)
}

export function endTimeout(db: Database, id: number, at: Instant): void {
  prepare(db, 'UPDATE timeouts SET done_at = ? WHERE id = ? AND done_at IS NULL').run(at, id)
}
