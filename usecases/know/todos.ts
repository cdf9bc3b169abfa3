/** To-dos about people, notices, and a reply that somebody saw in their own mailbox. */
import { addDays, dayNumber, localOf } from '#core/time/zone'
import type { DeskView, TodoLine, TodoInput } from '#core/views/desk'
import { readTogether } from '#data/connection'
import { appendEvent } from '#data/events'
import { countUnseen, latestNotices, markSeen } from '#data/notices'
import { findPerson } from '#data/people'
import { doneTodos, findTodo, helpers, insertTodo, openTodos, setDone, type TodoRow } from '#data/todos'
import { workspaceOf } from '#data/workspace'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { InputProblem, NotNow, NotThere } from '../problem'
import { nameOf } from '../inner/names'

/** So many of what is done or was told are shown. */
const LAST = 50

const tidy = (text: string) => text.replace(/\s+/g, ' ').trim()

export function addTodo(context: WorkspaceContext, input: TodoInput): number {
  const { db } = context
  const text = tidy(input.text)
  return transact(context, () => {
    if (text === '') throw new InputProblem([{ field: 'text', problem: 'Type what is to be done.' }])
    if (!findPerson(db, input.personId)) throw new NotThere('This subscriber no longer exists.')
    const at = context.clock.now()
    return insertTodo(db, {
      personId: input.personId, text, helper: tidy(input.helper), dueOn: addDays(localOf(at, workspaceOf(db).zone).date, input.days),
      ruleId: null, causeId: null, at,
    })
  })
}

/** It is done, which rules may wake on. */
export function finishTodo(context: WorkspaceContext, id: number): void {
  const { db } = context
  transact(context, () => {
    const todo = findTodo(db, id)
    if (!todo) throw new NotThere('This to-do no longer exists.')
    if (todo.doneAt !== null) throw new NotNow('This to-do is already done.')
    const at = context.clock.now()
    setDone(db, id, at)
    appendEvent(db, 'todo-done', at, { personId: todo.personId, causeId: todo.eventId, todoId: id })
  })
  context.wake()
}

/** It was not done after all. What followed from its being done stays. */
export function reopenTodo(context: WorkspaceContext, id: number): void {
  const { db } = context
  transact(context, () => {
    const todo = findTodo(db, id)
    if (!todo) throw new NotThere('This to-do no longer exists.')
    if (todo.doneAt === null) return
    setDone(db, id, null)
    appendEvent(db, 'todo-reopened', context.clock.now(), { personId: todo.personId, causeId: todo.eventId, todoId: id })
  })
}

/** Everything told up to this one was read. */
export function seeNotices(context: WorkspaceContext, upToId: number): void {
  transact(context, () => markSeen(context.db, upToId, context.clock.now()))
}

/** The owner found an answer of theirs in the mailbox. */
export function noteReply(context: WorkspaceContext, personId: number): void {
  const { db } = context
  transact(context, () => {
    if (!findPerson(db, personId)) throw new NotThere('This subscriber no longer exists.')
    appendEvent(db, 'replied', context.clock.now(), { personId, detail: 'by-hand' })
  })
  context.wake()
}

export function deskView(context: WorkspaceContext): DeskView {
  const { db } = context
  return readTogether(db, () => {
    const today = localOf(context.clock.now(), workspaceOf(db).zone).date
    const line = ({ id, personId, text, helper, dueOn, ruleId, doneAt }: TodoRow): TodoLine => ({
      id, person: nameOf(db, personId), text, helper, dueOn, late: dayNumber(today) - dayNumber(dueOn), ruleId, doneAt,
    })
    return {
      open: openTodos(db).map(line), done: doneTodos(db, LAST).map(line), unseen: countUnseen(db), helpers: helpers(db),
      notices: latestNotices(db, LAST).map(({ id, personId, text, ruleId, at, seenAt }) => ({
        id, person: nameOf(db, personId), text, ruleId, at, seen: seenAt !== null,
      })),
    }
  })
}
