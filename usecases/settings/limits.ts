/** How close together emails may come, and how many. */
import type { Limits } from '#core/sending/quota'
import { sendingLimits, setSendingLimits } from '#data/limits'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { InputProblem } from '../problem'

export const sendingLimitsOf = ({ db }: WorkspaceContext): Limits => sendingLimits(db)

/** Counts for what leaves from now on. */
export function saveSendingLimits(context: WorkspaceContext, limits: Limits): void {
  if (limits.aDay !== null && limits.aWeek !== null && limits.aWeek < limits.aDay) {
    throw new InputProblem([{ field: 'aWeek', problem: 'The weekly limit must be at least the daily limit.' }])
  }
  transact(context, () => setSendingLimits(context.db, limits))
  context.wake()
}
