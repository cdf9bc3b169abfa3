/** Beginning, stopping and taking back what is done to many people at once. The engine does it: see time/tasks.ts. */
import { sourceOf } from '#core/exchange/importing'
import { readField, sayField } from '#core/people/field'
import { CAN_BE_TAKEN_BACK, CANNOT_BE_STOPPED, type TaskPeople } from '#core/people/task'
import type { Instant } from '#core/time/zone'
import type { Doing, Done, TaskView } from '#core/views/tasks'
import type { Database } from '#data/connection'
import { findCourse } from '#data/courses'
import { findField } from '#data/fields'
import { countLeftOut, importOutcomes } from '#data/imports'
import { findList, findTag } from '#data/marks'
import { endTask, findTask, latestTasks, outcomesOf, takenBackBy, type TaskRow } from '#data/tasks'
import type { WorkspaceContext } from '../context'
import { beginTask } from '../inner/beginTask'
import { transact } from '../inner/reactor/transaction'
import { filledTag } from '../inner/facts/marks'
import { InputProblem, NotNow, NotThere } from '../problem'
import type { Narrowing } from '../inner/narrowing'
import { stopSend } from '../sending/audience'
import { conditionOf } from '../inner/narrowing'

/** Everybody in the table as it is narrowed, or those who were picked in it. */
export type Whom = { kind: 'all', search: string, narrowing: Narrowing } | { kind: 'picked', ids: number[] }

/** `said` is the number of people that was shown: if it is another one by now, nothing is done and the number is said anew. */
export function doToMany(context: WorkspaceContext, whom: Whom, doing: Doing, said: number): number {
  const { db } = context
  const id = transact(context, () => {
    const at = context.clock.now()
    const spec = specOf(db, doing, at)
    return beginTask(db, { title: titleOf(db, spec), spec, whom: taskPeople(context, whom), said, at })
  })
  context.wake()
  return id
}

export const taskPeople = (context: WorkspaceContext, whom: Whom): TaskPeople & { kind: 'picked' | 'fitting' } =>
  whom.kind === 'picked' ? whom : { kind: 'fitting', search: whom.search, condition: conditionOf(context, whom.narrowing) }

function specOf(db: Database, doing: Doing, at: Instant): Done {
  // A tag with blanks is settled now, so that everybody gets the same and it can be taken back.
  if (doing.kind === 'give-tag') return { ...doing, tagId: filledTag(db, doing.tagId, at)?.id ?? doing.tagId }
  if (doing.kind !== 'set-field') return doing
  const { kind, fieldId, typed } = doing
  const field = findField(db, fieldId)
  if (!field) throw new NotThere('This field no longer exists.')
  const read = typed.trim() === '' ? null : readField(field, typed)
  if (read && !read.ok) throw new InputProblem([{ field: 'typed', problem: read.problem }])
  return { kind, fieldId, value: read?.ok ? read.value : null }
}

/** In words, and checked: what it needs is there. */
function titleOf(db: Database, doing: Done): string {
  switch (doing.kind) {
    case 'give-tag':
    case 'take-tag': {
      const tag = findTag(db, doing.tagId)
      if (!tag) throw new NotThere('This tag no longer exists.')
      return doing.kind === 'give-tag' ? `add the tag “${tag.name}”` : `remove the tag “${tag.name}”`
    }
    case 'put-on-list':
    case 'take-off-list': {
      const list = findList(db, doing.listId)
      if (!list) throw new NotThere('This list no longer exists.')
      return doing.kind === 'put-on-list' ? `add to the list “${list.name}”` : `remove from the list “${list.name}”`
    }
    case 'set-field': {
      const field = findField(db, doing.fieldId)
      if (!field) throw new NotThere('This field no longer exists.')
      return doing.value === null ? `clear “${field.name}”` : `set “${field.name}” to “${sayField(field.kind, doing.value)}”`
    }
    case 'enrol': {
      const course = findCourse(db, doing.courseId)
      if (!course) throw new NotThere('This course no longer exists.')
      if (course.versionId === null) throw new NotNow('This course is not running yet. Start it first.')
      return `start the course “${course.name}”`
    }
    case 'erase':
      return 'erase for good'
  }
}

/** Takes back what a task did, where nothing else has changed it since. Only once. */
export function takeBack(context: WorkspaceContext, taskId: number): number {
  const { db } = context
  const id = transact(context, () => {
    const task = findTask(db, taskId)
    if (!task) throw new NotThere('This no longer exists.')
    if (!canBeTakenBack(db, task)) throw new NotNow('This cannot be undone, or has been undone already.')
    return beginTask(db, {
      title: `undo: ${task.title}`, spec: { kind: 'undo', taskId }, whom: { kind: 'changed-by', taskId }, said: null,
      total: task.changed, undoesId: taskId, at: context.clock.now(),
    })
  })
  context.wake()
  return id
}

/** Stops a task where it is; what is done stays done, and can be taken back like that of a whole one. */
export function stopTask(context: WorkspaceContext, taskId: number): void {
  const { db } = context
  const spec = findTask(db, taskId)?.spec
  if (spec?.kind === 'send') return stopSend(context, spec.sendId)
  transact(context, () => {
    const task = findTask(db, taskId)
    if (!task) throw new NotThere('This no longer exists.')
    if (CANNOT_BE_STOPPED.includes(task.spec.kind)) throw new NotNow('A merge cannot be stopped halfway. Some people would have both.')
    if (task.state === 'waiting' || task.state === 'running') endTask(db, taskId, 'stopped', context.clock.now())
  })
}

function canBeTakenBack(db: Database, task: TaskRow): boolean {
  return CAN_BE_TAKEN_BACK.includes(task.spec.kind) && task.endedAt !== null && task.changed > 0 && takenBackBy(db, task.id) === null
}

export function taskView(context: WorkspaceContext, id: number): TaskView {
  const task = findTask(context.db, id)
  if (!task) throw new NotThere('This no longer exists.')
  return viewOf(context.db, task)
}

/** What was lately done to many at once, the latest first. */
export function taskViews(context: WorkspaceContext): TaskView[] {
  return latestTasks(context.db, 50).map(task => viewOf(context.db, task))
}

function viewOf(db: Database, task: TaskRow): TaskView {
  const { id, title, state, total, done, changed, problem, madeAt, endedAt } = task
  return {
    id, kind: task.spec.kind, title, state, total, done, changed, problem, madeAt, endedAt,
    leftOut: task.spec.kind === 'import' && task.endedAt !== null ? countLeftOut(db, task.spec.importId) : 0,
    importId: task.spec.kind === 'import' ? task.spec.importId : null,
    source: task.spec.kind === 'import' ? sourceOf(task.spec.spec) : null,
    outcomes: endedAt === null ? [] : whatBecame(db, task), canBeStopped: endedAt === null && !CANNOT_BE_STOPPED.includes(task.spec.kind),
    canBeTakenBack: canBeTakenBack(db, task), takenBackBy: takenBackBy(db, id),
  }
}

function whatBecame(db: Database, { id, spec, done }: TaskRow): TaskView['outcomes'] {
  switch (spec.kind) {
    case 'import': return importOutcomes(db, spec.importId)
    case 'merge-tags':
    case 'merge-lists': return [{ outcome: 'moved', people: done }]
    default: return outcomesOf(db, id)
  }
}
