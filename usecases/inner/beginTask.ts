/** Beginning a task for many people, by the number that was shown to the owner. */
import type { TaskSpec } from '#core/people/task'
import type { Instant } from '#core/time/zone'
import type { Database } from '#data/connection'
import { appendEvent } from '#data/events'
import { insertTask, nextTaskId, setTotal } from '#data/tasks'
import { NotNow } from '../problem'

/** `add` puts its people down and counts them; another number than `said` is refused, so that nobody is treated who was not seen. Within a transaction of the caller's; returns the task. */
export function beginTask(db: Database, { title, spec, ruleId, at }: { title: string, spec: TaskSpec, ruleId?: number, at: Instant }, said: number, add: (taskId: number) => number): number {
  const taskId = nextTaskId(db)
  const eventId = appendEvent(db, 'task-begun', at, { taskId, ...ruleId !== undefined && { ruleId } })
  insertTask(db, { title, spec, total: 0, eventId, undoesId: null, madeAt: at })
  const total = add(taskId)
  if (total !== said) throw new NotNow(`Meanwhile these are ${total.toLocaleString('en-GB')} people, not ${said.toLocaleString('en-GB')}. Look once more, and say it again.`)
  if (total === 0) throw new NotNow('That is nobody.')
  setTotal(db, taskId, total)
  return taskId
}
