/** What somebody is to do about a person. */
import type { Instant, LocalDate } from '#core/time/zone'
import type { Database } from './connection'
import { prepare } from './connection'
import { appendEvent } from './events'

export interface TodoRow {
  id: number, personId: number, text: string, helper: string, dueOn: LocalDate, ruleId: number | null, eventId: number, madeAt: Instant,
  doneAt: Instant | null,
}

const TODO = `
  SELECT id, person_id AS personId, text, helper, due_on AS dueOn, rule_id AS ruleId, event_id AS eventId, made_at AS madeAt,
    done_at AS doneAt
  FROM todos`

/** Makes it, and writes that down: each refers to the other. */
export function insertTodo(db: Database, {
  personId, text, helper, dueOn, ruleId, causeId, at,
}: Pick<TodoRow, 'personId' | 'text' | 'helper' | 'dueOn' | 'ruleId'> & { causeId: number | null, at: Instant }): number {
  const id = prepare<{ id: number }>(db, 'SELECT coalesce(max(id), 0) + 1 AS id FROM todos').get()!.id
  const eventId = appendEvent(db, 'todo-made', at, { personId, causeId, todoId: id })
  prepare(db, 'INSERT INTO todos (id, person_id, text, helper, due_on, rule_id, event_id, made_at) VALUES (?, ?, ?, ?, ?, ?, ?, ?)').run(
    id, personId, text, helper, dueOn, ruleId, eventId, at,
  )
  return id
}

export function findTodo(db: Database, id: number): TodoRow | undefined {
  return prepare<TodoRow>(db, `${TODO} WHERE id = ?`).get(id)
}

/** Null takes the doing back. */
export function setDone(db: Database, id: number, doneAt: Instant | null): void {
  prepare(db, 'UPDATE todos SET done_at = ? WHERE id = ?').run(doneAt, id)
}

/** What is still to be done, the most urgent first. */
export function openTodos(db: Database): TodoRow[] {
  return prepare<TodoRow>(db, `${TODO} WHERE done_at IS NULL ORDER BY due_on, id`).all()
}

export function countOpenTodos(db: Database): number {
  return prepare<{ n: number }>(db, 'SELECT count(*) AS n FROM todos WHERE done_at IS NULL').get()!.n
}

/** What was done last, newest first. */
export function doneTodos(db: Database, limit: number): TodoRow[] {
  return prepare<TodoRow>(db, `${TODO} WHERE done_at IS NOT NULL ORDER BY done_at DESC, id DESC LIMIT ?`).all(limit)
}

export function todosOfPerson(db: Database, personId: number): TodoRow[] {
  return prepare<TodoRow>(db, `${TODO} WHERE person_id = ? ORDER BY done_at IS NOT NULL, due_on, id`).all(personId)
}

/** Who has to-dos besides the owner, to choose from. */
export function helpers(db: Database): string[] {
  return prepare<{ helper: string }>(db, `SELECT DISTINCT helper FROM todos WHERE helper <> '' ORDER BY helper COLLATE NOCASE`).all()
    .map(({ helper }) => helper)
}
