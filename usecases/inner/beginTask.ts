/** Beginning a task for many people: they are put down some at a time, so that nobody waits however many they are. */
import { isChange, OUTCOMES, type TaskPeople, type TaskSpec } from '#core/people/task'
import type { Instant } from '#core/time/zone'
import type { Database } from '#data/connection'
import { appendEvent } from '#data/events'
import { lastPersonId, matching } from '#data/people'
import {
  addPeopleChangedBy, addPeopleWhere, countTaskPeople, endGathering, findTask, insertTask, nextTaskId, setCursor, type TaskRow,
} from '#data/tasks'
import { NotNow } from '../problem'
import { markedOf, whichOf, type AskedPeople } from './taskPeople'
import { sayNumber, sayPeople } from '#core/stats/say'

/** So many ids are looked at in one transaction. */
const SPAN = 2000

interface Beginning {
  title: string
  spec: TaskSpec
  whom: TaskPeople
  /** How many were shown to the owner; null if any number will do. */
  said: number | null
  /** How many they are as far as is known, where none were shown. */
  total?: number
  ruleId?: number
  undoesId?: number
  /** Nobody at all is no reason to refuse it. */
  mayBeNobody?: true
  at: Instant
}

/**
 * Within a transaction of the caller's; returns the task. Another number than
 * `said` is refused where all are looked at here, so that nobody is treated
 * who was not seen; where they are too many for that, {@link countPeople} of a
 * reading thread has just counted them.
 */
export function beginTask(
  db: Database, { title, spec, whom, said, total = said ?? 0, ruleId, undoesId, mayBeNobody, at }: Beginning,
): number {
  const taskId = nextTaskId(db)
  const eventId = appendEvent(db, 'task-begun', at, { taskId, ...ruleId !== undefined && { ruleId } })
  insertTask(db, { title, spec, whom, total, eventId, undoesId: undoesId ?? null, madeAt: at })
  const found = gatherSome(db, findTask(db, taskId)!)
  if (found !== null && said !== null) mustBeAsMany(found, said)
  if (found === 0 && !mayBeNobody) throw new NotNow('Nobody matches.')
  return taskId
}

export function mustBeAsMany(found: number, said: number): void {
  if (found !== said) {
    throw new NotNow(`Meanwhile these are ${sayPeople(found)}, not ${sayNumber(said)}. Check again, and confirm.`)
  }
}

/** Puts down the next of a task's people, as they were when it began. Returns how many they are once all are down, else null. */
export function gatherSome(db: Database, { id, whom, cursor, madeAt }: TaskRow): number | null {
  if (whom === null) return countTaskPeople(db, id)
  const last = whom.kind === 'changed-by' ? countTaskPeople(db, whom.taskId) : lastPersonId(db)
  const to = Math.min(last, cursor + SPAN)
  if (whom.kind === 'changed-by') addPeopleChangedBy(db, id, { after: cursor, to }, whom.taskId, OUTCOMES.filter(isChange))
  else addPeopleWhere(db, id, { after: cursor, to }, matching(whichOf(db, within(whom, cursor, to), madeAt)), markedOf(db, whom, madeAt))
  setCursor(db, id, to)
  if (to < last) return null
  const total = countTaskPeople(db, id)
  endGathering(db, id, total)
  return total
}

/** Many who were picked are not all asked about again for each span. */
const within = (whom: AskedPeople, after: number, to: number): AskedPeople => whom.kind !== 'picked' ? whom : {
  ...whom, ids: whom.ids.filter(id => id > after && id <= to),
}
