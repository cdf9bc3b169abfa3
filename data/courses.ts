/** Courses and their versions, and the numbers of their emails. */
import type { CourseDraft } from '#core/sequence/draft'
import type { Program } from '#core/sequence/program'
import type { Instant } from '#core/time/zone'
import type { StepNumber, StepNumbers } from '#core/views/course'
import type { Database } from './connection'
import { prepare, memoize } from './connection'
import { keepSteady } from './kept'

export interface CourseRow {
  id: number
  name: string
  listId: number | null
  status: 'draft' | 'running'
  again: CourseDraft['again']
  draft: CourseDraft
  versionId: number | null
  versionNumber: number | null
  /** The draft that the running version was made from. */
  published: CourseDraft | null
  createdAt: Instant
  changedAt: Instant
  startedAt: Instant | null
  /** Its owner has stopped it as a whole: nobody comes in, and nobody gets on. */
  stoppedAt: Instant | null
}

interface RawCourse extends Omit<CourseRow, 'draft' | 'published'> { draft: string, published: string | null }

const COURSE = `
  SELECT c.id, c.name, c.list_id AS listId, c.status, c.again, c.draft, c.version_id AS versionId, v.number AS versionNumber,
    v.source AS published, c.created_at AS createdAt, c.changed_at AS changedAt, c.started_at AS startedAt, c.stopped_at AS stoppedAt
  FROM courses c LEFT JOIN course_versions v ON v.id = c.version_id`

const parse = (row: RawCourse): CourseRow => ({
  ...row, draft: JSON.parse(row.draft), published: row.published && JSON.parse(row.published),
})

export function allCourses(db: Database): CourseRow[] {
  return prepare<RawCourse>(db, `${COURSE} WHERE c.gone_at IS NULL ORDER BY c.id`).all().map(parse)
}

export function findCourse(db: Database, id: number): CourseRow | undefined {
  const row = prepare<RawCourse>(db, `${COURSE} WHERE c.id = ? AND c.gone_at IS NULL`).get(id)
  return row && parse(row)
}

/** Also of one that was deleted: what it was called in what people have behind them. */
export const courseNameEver = (db: Database, id: number): string =>
  prepare<{ name: string }>(db, 'SELECT name FROM courses WHERE id = ?').get(id)!.name

export function insertCourse(db: Database, name: string, draft: CourseDraft, at: Instant): number {
  return Number(prepare(db, `INSERT INTO courses (name, status, again, draft, created_at, changed_at) VALUES (?, 'draft', ?, ?, ?, ?)`)
    .run(name, draft.again, JSON.stringify(draft), at, at).lastInsertRowid)
}

export function updateDraft(db: Database, id: number, name: string, draft: CourseDraft, at: Instant): void {
  prepare(db, 'UPDATE courses SET name = ?, draft = ?, changed_at = ? WHERE id = ?').run(name, JSON.stringify(draft), at, id)
}

/** Makes a version run: what it says about list, ways in and re-entry holds from now on. */
export function setRunning(db: Database, id: number, versionId: number, draft: CourseDraft, at: Instant): void {
  prepare(db, `
    UPDATE courses SET status = 'running', version_id = ?, list_id = ?, joins_list = ?, again = ?, started_at = coalesce(started_at, ?)
    WHERE id = ?`)
    // A list that starts the course is joined before: nobody comes in by what coming in brings.
    .run(versionId, draft.listId, draft.joinsList && !draft.wayInListIds?.includes(draft.listId ?? 0) ? 1 : 0, draft.again, at, id)
  prepare(db, 'DELETE FROM course_ways_in WHERE course_id = ?').run(id)
  for (const tagId of draft.wayInTagIds) prepare(db, 'INSERT INTO course_ways_in (course_id, tag_id) VALUES (?, ?)').run(id, tagId)
  prepare(db, 'DELETE FROM course_ways_in_lists WHERE course_id = ?').run(id)
  for (const listId of draft.wayInListIds ?? []) {
    prepare(db, 'INSERT INTO course_ways_in_lists (course_id, list_id) VALUES (?, ?)').run(id, listId)
  }
}

/** Courses that getting this tag starts, by id. */
export function coursesStartedBy(db: Database, tagId: number): number[] {
  return keepSteady(db, `started by tag ${tagId}`, () => prepare<{ courseId: number }>(db, `
    SELECT w.course_id AS courseId FROM course_ways_in w JOIN courses c ON c.id = w.course_id
    WHERE w.tag_id = ? AND c.status = 'running' ORDER BY w.course_id`).all(tagId).map(row => row.courseId))
}

/** Courses that joining this list starts, by id. */
export function coursesStartedByList(db: Database, listId: number): number[] {
  return keepSteady(db, `started by list ${listId}`, () => prepare<{ courseId: number }>(db, `
    SELECT w.course_id AS courseId FROM course_ways_in_lists w JOIN courses c ON c.id = w.course_id
    WHERE w.list_id = ? AND c.status = 'running' ORDER BY w.course_id`).all(listId).map(row => row.courseId))
}

/**
 * How a course runs, without its words: its version, list and re-entry; and since when people of older versions are being moved to this
 * one, null where nobody is.
 */
export interface Running {
  versionId: number | null, listId: number | null, /** Whoever comes in joins its list. */ joinsList: 0 | 1, again: CourseDraft['again'],
  movingAt: Instant | null, movingEventId: number | null,
  stoppedAt: Instant | null
  /** Since when it is being stopped, or let go on, person by person; null once that is done. */
  stopChangedAt: Instant | null
  stopEventId: number | null
  gone: 0 | 1
}

export function runningOf(db: Database, courseId: number): Running | undefined {
  return keepSteady(db, `course ${courseId}`, () => prepare<Running>(db, `
    SELECT version_id AS versionId, list_id AS listId, joins_list AS joinsList, again, moving_at AS movingAt,
      moving_event_id AS movingEventId, stopped_at AS stoppedAt, stop_changed_at AS stopChangedAt, stop_event_id AS stopEventId,
        gone_at IS NOT NULL AS gone
    FROM courses WHERE id = ?`).get(courseId))
}

/** Stops it, or lets it go on; who is inside is brought to that in bits. */
export function setStopped(db: Database, courseId: number, stoppedAt: Instant | null, change: { at: Instant, eventId: number }): void {
  prepare(db, 'UPDATE courses SET stopped_at = ?, stop_changed_at = ?, stop_event_id = ? WHERE id = ?').run(
    stoppedAt, change.at, change.eventId, courseId,
  )
}

/** Everybody stands as was said. */
export function endStopChange(db: Database, courseId: number): void {
  prepare(db, 'UPDATE courses SET stop_changed_at = NULL, stop_event_id = NULL WHERE id = ?').run(courseId)
}

/** A course that is being stopped or let go on. */
export function courseStoppingOrResuming(db: Database): number | null {
  return prepare<{ id: number }>(db, 'SELECT id FROM courses WHERE stop_changed_at IS NOT NULL ORDER BY id LIMIT 1').get()?.id ?? null
}

export const isStoppedCourse = (db: Database, courseId: number): boolean => (runningOf(db, courseId)?.stoppedAt ?? null) !== null

/** Nothing finds it any more, and it starts nobody. */
export function endCourse(db: Database, courseId: number, at: Instant): void {
  prepare(db, `UPDATE courses SET gone_at = ?, status = 'draft', version_id = NULL, stopped_at = NULL, stop_changed_at = NULL,
    moving_at = NULL, moving_event_id = NULL
    WHERE id = ?`).run(at, courseId)
  prepare(db, 'DELETE FROM course_ways_in WHERE course_id = ?').run(courseId)
  prepare(db, 'DELETE FROM course_ways_in_lists WHERE course_id = ?').run(courseId)
}

export function setMoving(db: Database, courseId: number, at: Instant | null, eventId: number | null): void {
  prepare(db, 'UPDATE courses SET moving_at = ?, moving_event_id = ? WHERE id = ?').run(at, eventId, courseId)
}

/** A course in which some stand in an older version. */
export function courseMoving(db: Database): number | null {
  return prepare<{ id: number }>(db, 'SELECT id FROM courses WHERE moving_at IS NOT NULL ORDER BY id LIMIT 1').get()?.id ?? null
}

/** The names of those courses. */
export const coursesMoving = (db: Database): string[] =>
  prepare<{ name: string }>(db, 'SELECT name FROM courses WHERE moving_at IS NOT NULL ORDER BY id').all().map(({ name }) => name)

/** The courses that run and their versions: everybody inside goes by one of them. */
export function runningCourses(db: Database): { id: number, versionId: number, again: CourseDraft['again'] }[] {
  return keepSteady(db, 'running courses', () => prepare<{ id: number, versionId: number, again: CourseDraft['again'] }>(
    db, 'SELECT id, version_id AS versionId, again FROM courses WHERE version_id IS NOT NULL ORDER BY id').all())
}

/** Grows with every publishing of any course. */
export const coursesChange = (db: Database): number =>
  keepSteady(db, 'courses change', () => prepare<{ n: number }>(db, 'SELECT coalesce(max(id), 0) AS n FROM course_versions').get()!.n)

export function insertVersion(db: Database, courseId: number, program: Program, source: CourseDraft, at: Instant): number {
  return prepare<{ id: number }>(db, `
    INSERT INTO course_versions (course_id, number, program, source, published_at)
    VALUES (@courseId, (SELECT coalesce(max(number), 0) + 1 FROM course_versions WHERE course_id = @courseId), @program, @source, @at)
    RETURNING id`).get({ courseId, program: JSON.stringify(program), source: JSON.stringify(source), at })!.id
}

/** A version's program. */
export function programOfVersion(db: Database, versionId: number): Program {
  return memoize(db, 'course_versions', versionId, () => {
    const row = prepare<{ program: string }>(db, 'SELECT program FROM course_versions WHERE id = ?').get(versionId)
    if (!row) throw new Error(`There is no course version ${versionId}`)
    return JSON.parse(row.program) as Program
  })
}

/** Drafts as they were published, the latest first, one after the other. */
export function* publishedDrafts(db: Database, courseId: number): Generator<CourseDraft> {
  for (const { id } of prepare<{ id: number }>(
    db, 'SELECT id FROM course_versions WHERE course_id = ? ORDER BY number DESC',
  ).all(courseId)) {
    yield JSON.parse(prepare<{ source: string }>(db, 'SELECT source FROM course_versions WHERE id = ?').get(id)!.source) as CourseDraft
  }
}

/** What became of an email, each read from an index of its own. */
const BECAME: Record<Exclude<StepNumber, 'waiting'>, string> = {
  sent: 'handed_over_at IS NOT NULL', heldBack: `status = 'held back'`, opened: 'opened_at IS NOT NULL', clicked: 'clicked_at IS NOT NULL',
  unsubscribed: 'left_at IS NOT NULL',
}

/** Per step: who stands before it, who was sent it, and what those did. People, not fetches: someone who came in twice is one person. */
export function stepNumbers(db: Database, courseId: number): Map<string, StepNumbers> {
  const numbers = new Map<string, StepNumbers>()
  const of = (stepId: string) => {
    let row = numbers.get(stepId)
    if (!row) numbers.set(stepId, row = { stepId, waiting: 0, sent: 0, heldBack: 0, opened: 0, clicked: 0, unsubscribed: 0 })
    return row
  }
  const standing = prepare<{ stepId: string, n: number }>(db, `
    SELECT step_id AS stepId, count(*) AS n FROM enrolments WHERE course_id = ? AND status = 'open' GROUP BY step_id`).all(courseId)
  for (const row of standing) of(row.stepId).waiting = row.n
  for (const [number, is] of Object.entries(BECAME) as [keyof typeof BECAME, string][]) {
    const rows = prepare<{ stepId: string, n: number }>(db, `
      SELECT item_id AS stepId, count(DISTINCT person_id) AS n FROM outbox WHERE kind = 'course' AND owner_id = ? AND ${is}
        GROUP BY item_id`).all(courseId)
    for (const row of rows) of(row.stepId)[number] = row.n
  }
  return numbers
}
