/** When emails may leave. */
import { both, isWeekHours, type WeekHours } from '#core/time/hours'
import { allCourses } from '#data/courses'
import { appendEvent } from '#data/events'
import { sendingHours, setSendingHours } from '#data/workspace'
import type { WorkspaceContext } from '../context'
import { replanEverybody } from '../time/replanning'
import { transact } from '../inner/reactor/transaction'
import { InputProblem } from '../problem'

export const sendingHoursOf = ({ db }: WorkspaceContext): { hours: WeekHours } => ({ hours: sendingHours(db) })

/** Unsent steps are planned anew. Hours in which a running course could never send are refused, with its name. */
export function saveSendingHours(context: WorkspaceContext, hours: WeekHours): void {
  const { db } = context
  transact(context, () => {
    if (!isWeekHours(hours)) throw new InputProblem([
      { field: 'hours', problem: 'Leave at least one half-hour of the week open. Otherwise nothing would ever be sent.' },
    ])
    const shut = allCourses(db).find(({ published }) => published?.hours && !both(published.hours, hours).includes('1'))
    if (shut) throw new InputProblem([
      { field: 'hours', problem: `${shut.name} has its own sending hours, and none of them would be open. Change its hours first.` },
    ])
    if (hours === sendingHours(db)) return
    setSendingHours(db, hours)
    const at = context.clock.now()
    const causeId = appendEvent(db, 'hours-changed', at)
    replanEverybody(db, 'hours', at, causeId)
  })
  context.wake()
}
