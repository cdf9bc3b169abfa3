/** What is done to many people at once, and how far it has come. */
import type { SqlCondition } from '#core/audience/sql'
import type { Outcome, TaskPeople, TaskSpec } from '#core/people/task'
import type { Instant } from '#core/time/zone'
import type { TaskState } from '#core/views/tasks'
import type { Database } from './connection'
import { prepare } from './connection'
import type { Span } from './people'

export interface TaskRow {
  id: number
  title: string
  spec: TaskSpec
  /** Whom it is for, while they are put down; null once they are, or where it needs no list of them. */
  whom: TaskPeople | null
  /** The last that was looked at while its people are put down, or worked on where it needs no list. */
  cursor: number
  state: TaskState
  total: number
  done: number
  changed: number
  eventId: number
  undoesId: number | null
  problem: string | null
  madeAt: Instant
  endedAt: Instant | null
}

type Raw = Omit<TaskRow, 'spec' | 'whom'> & { spec: string, whom: string | null }

const TASK = `SELECT id, title, spec, whom, cursor, state, total, done, changed, event_id AS eventId, undoes_id AS undoesId, problem,
  made_at AS madeAt,
  ended_at AS endedAt FROM tasks`

const parse = (row: Raw): TaskRow => ({
  ...row, spec: JSON.parse(row.spec) as TaskSpec, whom: row.whom === null ? null : JSON.parse(row.whom) as TaskPeople,
})

export function findTask(db: Database, id: number): TaskRow | undefined {
  const row = prepare<Raw>(db, `${TASK} WHERE id = ?`).get(id)
  return row && parse(row)
}

/** The latest first. */
export function latestTasks(db: Database, limit: number): TaskRow[] {
  return prepare<Raw>(db, `${TASK} ORDER BY id DESC LIMIT ?`).all(limit).map(parse)
}

/** Those that are under way or wait for their turn. */
export function openTasks(db: Database): TaskRow[] {
  return prepare<Raw>(db, `${TASK} WHERE state IN ('waiting', 'running') ORDER BY id`).all().map(parse)
}

/**
 * The one that is or should be under way: tasks are done one after another, but whom they are for is put down as soon as they begin. What
 * is sent has its time, and does not wait behind a bulk change.
 */
export function openTask(db: Database): TaskRow | undefined {
  const row = prepare<Raw>(db, `${TASK} WHERE state IN ('waiting', 'running') AND is_paused = 0
    ORDER BY whom IS NULL, spec ->> 'kind' <> 'send', id LIMIT 1`).get()
  return row && parse(row)
}

export function takenBackBy(db: Database, taskId: number): number | null {
  return prepare<{ id: number }>(db, 'SELECT id FROM tasks WHERE undoes_id = ?').get(taskId)?.id ?? null
}

export type NewTask = Pick<TaskRow, 'title' | 'spec' | 'total' | 'eventId' | 'undoesId' | 'madeAt'> & Partial<Pick<TaskRow, 'whom'>>

export function insertTask(db: Database, { spec, title, total, eventId, undoesId, madeAt, whom = null }: NewTask): number {
  return Number(prepare(db, `
    INSERT INTO tasks (kind, title, spec, whom, state, total, event_id, undoes_id, made_at)
    VALUES (?, ?, ?, ?, 'waiting', ?, ?, ?, ?)`)
    .run(spec.kind, title, JSON.stringify(spec), whom && JSON.stringify(whom), total, eventId, undoesId, madeAt).lastInsertRowid)
}

/** The next number a task will have. */
export function nextTaskId(db: Database): number {
  return prepare<{ id: number }>(db, 'SELECT coalesce(max(id), 0) + 1 AS id FROM tasks').get()!.id
}

/** How many of its people are put down. */
export function countTaskPeople(db: Database, taskId: number): number {
  return prepare<{ n: number }>(db, 'SELECT coalesce(max(n), 0) AS n FROM task_people WHERE task_id = ?').get(taskId)!.n
}

/**
 * Puts down those people of a span of ids who fit, in the order of their ids; with 1 as what was there before where they are `marked`.
 * Both are expressions over the row `p`.
 */
export function addPeopleWhere(
  db: Database, taskId: number, { after, to }: Span, fits: SqlCondition, marked: SqlCondition = { sql: '0', values: [] },
): void {
  db.prepare(`INSERT INTO task_people (task_id, n, person_id, before)
    SELECT ?, ? + row_number() OVER (ORDER BY p.id), p.id, CASE WHEN ${marked.sql} THEN 1 END FROM people p WHERE p.id > ? AND p.id <= ?
      AND ${fits.sql}`).run(taskId, countTaskPeople(db, taskId), ...marked.values, after, to, ...fits.values)
}

/** The same for those whom another task changed, with what was there before; the span is of their places in it. */
export function addPeopleChangedBy(db: Database, taskId: number, { after, to }: Span, otherId: number, changes: readonly Outcome[]): void {
  prepare(db, `INSERT INTO task_people (task_id, n, person_id, before)
    SELECT ?, ? + row_number() OVER (ORDER BY n), person_id, before FROM task_people WHERE task_id = ? AND n > ? AND n <= ?
      AND outcome IN (SELECT value FROM json_each(?))`)
    .run(taskId, countTaskPeople(db, taskId), otherId, after, to, JSON.stringify(changes))
}

export function setCursor(db: Database, taskId: number, cursor: number): void {
  prepare(db, 'UPDATE tasks SET cursor = ? WHERE id = ?').run(cursor, taskId)
}

/** All its people are put down. */
export function endGathering(db: Database, taskId: number, total: number): void {
  prepare(db, 'UPDATE tasks SET whom = NULL, total = ? WHERE id = ?').run(total, taskId)
}

/** The next people a task comes to. */
export function nextPeople(
  db: Database, task: Pick<TaskRow, 'id' | 'done'>, limit: number,
): { n: number, personId: number, before: string | number | null }[] {
  return prepare<{ n: number, personId: number, before: string | number | null }>(
    db, 'SELECT n, person_id AS personId, before FROM task_people WHERE task_id = ? AND n > ? ORDER BY n LIMIT ?',
  ).all(task.id, task.done, limit)
}

/** `before` is kept as it is given: null where nothing was there, or where there is nothing to be taken back. */
export function setOutcome(db: Database, taskId: number, n: number, outcome: Outcome, before: string | number | null): void {
  prepare(db, 'UPDATE task_people SET outcome = ?, before = ? WHERE task_id = ? AND n = ?').run(outcome, before, taskId, n)
}

export function advanceTask(db: Database, id: number, by: { done: number, changed: number }): void {
  prepare(db, `UPDATE tasks SET state = 'running', done = done + ?, changed = changed + ? WHERE id = ?`).run(by.done, by.changed, id)
}

export function endTask(db: Database, id: number, state: 'done' | 'stopped' | 'failed', at: Instant, problem: string | null = null): void {
  prepare(db, 'UPDATE tasks SET state = ?, ended_at = ?, problem = ? WHERE id = ?').run(state, at, problem, id)
}

/** It waits until it is let go on: nothing of it is done meanwhile. One that broke off goes on from where it came to. */
export function pauseTask(db: Database, id: number, isPaused: boolean): void {
  prepare(db, `UPDATE tasks SET is_paused = @paused, state = CASE WHEN state = 'failed' AND @paused = 0 THEN 'running' ELSE state END,
      ended_at = CASE WHEN state = 'failed' AND @paused = 0 THEN NULL ELSE ended_at END,
      problem = CASE WHEN state = 'failed' AND @paused = 0 THEN NULL ELSE problem END
    WHERE id = @id`).run({ id, paused: isPaused ? 1 : 0 })
}

export function outcomesOf(db: Database, taskId: number): { outcome: Outcome, people: number }[] {
  return prepare<{ outcome: Outcome, people: number }>(db, `
    SELECT outcome, count(*) AS people FROM task_people WHERE task_id = ? AND outcome IS NOT NULL GROUP BY outcome
    ORDER BY people DESC`).all(taskId)
}
