/** What is done to many people at once, and how far it has come. */
import type { Outcome, TaskSpec } from '#core/people/task'
import type { Instant } from '#core/time/zone'
import type { TaskState } from '#core/views/tasks'
import type { Database } from './connection'
import { q } from './connection'
import type { Which } from './people'
import { matching } from './people'

export interface TaskRow {
  id: number
  title: string
  spec: TaskSpec
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

type Raw = Omit<TaskRow, 'spec'> & { spec: string }

const TASK = `SELECT id, title, spec, state, total, done, changed, event_id AS eventId, undoes_id AS undoesId, problem, made_at AS madeAt, ended_at AS endedAt FROM tasks`

const parse = (row: Raw): TaskRow => ({ ...row, spec: JSON.parse(row.spec) as TaskSpec })

export function findTask(db: Database, id: number): TaskRow | undefined {
  const row = q<Raw>(db, `${TASK} WHERE id = ?`).get(id)
  return row && parse(row)
}

/** The latest first. */
export function latestTasks(db: Database, limit: number): TaskRow[] {
  return q<Raw>(db, `${TASK} ORDER BY id DESC LIMIT ?`).all(limit).map(parse)
}

/** The one that is or should be under way: tasks are done one after another. */
export function openTask(db: Database): TaskRow | undefined {
  const row = q<Raw>(db, `${TASK} WHERE state IN ('waiting', 'running') ORDER BY id LIMIT 1`).get()
  return row && parse(row)
}

export function takenBackBy(db: Database, taskId: number): number | null {
  return q<{ id: number }>(db, 'SELECT id FROM tasks WHERE undoes_id = ?').get(taskId)?.id ?? null
}

export function insertTask(db: Database, row: Pick<TaskRow, 'title' | 'spec' | 'total' | 'eventId' | 'undoesId' | 'madeAt'>): number {
  return Number(q(db, `INSERT INTO tasks (kind, title, spec, state, total, event_id, undoes_id, made_at) VALUES (?, ?, ?, 'waiting', ?, ?, ?, ?)`)
    .run(row.spec.kind, row.title, JSON.stringify(row.spec), row.total, row.eventId, row.undoesId, row.madeAt).lastInsertRowid)
}

/** The next number a task will have. */
export function nextTaskId(db: Database): number {
  return q<{ id: number }>(db, 'SELECT coalesce(max(id), 0) + 1 AS id FROM tasks').get()!.id
}

/** Settles whom a task is for, in the order of their numbers, from now on the same whoever else comes to fit. Returns how many. */
export function addPeopleWhere(db: Database, taskId: number, which: Which): number {
  const { sql, values } = matching(which)
  return db.prepare(`INSERT INTO task_people (task_id, n, person_id) SELECT ?, row_number() OVER (ORDER BY p.id), p.id FROM people p WHERE ${sql}`).run(taskId, ...values).changes
}

export function addPeople(db: Database, taskId: number, ids: number[]): number {
  return q(db, `INSERT INTO task_people (task_id, n, person_id) SELECT ?, row_number() OVER (ORDER BY p.id), p.id FROM people p WHERE p.gone IS NULL AND p.id IN (SELECT value FROM json_each(?))`)
    .run(taskId, JSON.stringify(ids)).changes
}

/** Those whom another task changed, with what was there before. */
export function addPeopleChangedBy(db: Database, taskId: number, otherId: number, changes: readonly Outcome[]): number {
  return q(db, `INSERT INTO task_people (task_id, n, person_id, before) SELECT ?, row_number() OVER (ORDER BY n), person_id, before FROM task_people WHERE task_id = ? AND outcome IN (SELECT value FROM json_each(?))`)
    .run(taskId, otherId, JSON.stringify(changes)).changes
}

export function setTotal(db: Database, taskId: number, total: number): void {
  q(db, 'UPDATE tasks SET total = ? WHERE id = ?').run(total, taskId)
}

/** The next people a task comes to. */
export function nextPeople(db: Database, task: Pick<TaskRow, 'id' | 'done'>, limit: number): { n: number, personId: number, before: string | number | null }[] {
  return q<{ n: number, personId: number, before: string | number | null }>(db, 'SELECT n, person_id AS personId, before FROM task_people WHERE task_id = ? AND n > ? ORDER BY n LIMIT ?').all(task.id, task.done, limit)
}

/** `before` is kept as it is given: null where nothing was there, or where there is nothing to be taken back. */
export function setOutcome(db: Database, taskId: number, n: number, outcome: Outcome, before: string | number | null): void {
  q(db, 'UPDATE task_people SET outcome = ?, before = ? WHERE task_id = ? AND n = ?').run(outcome, before, taskId, n)
}

export function advanceTask(db: Database, id: number, by: { done: number, changed: number }): void {
  q(db, `UPDATE tasks SET state = 'running', done = done + ?, changed = changed + ? WHERE id = ?`).run(by.done, by.changed, id)
}

export function endTask(db: Database, id: number, state: 'done' | 'stopped' | 'failed', at: Instant, problem: string | null = null): void {
  q(db, 'UPDATE tasks SET state = ?, ended_at = ?, problem = ? WHERE id = ?').run(state, at, problem, id)
}

export function outcomesOf(db: Database, taskId: number): { outcome: Outcome, people: number }[] {
  return q<{ outcome: Outcome, people: number }>(db, 'SELECT outcome, count(*) AS people FROM task_people WHERE task_id = ? AND outcome IS NOT NULL GROUP BY outcome ORDER BY people DESC').all(taskId)
}
