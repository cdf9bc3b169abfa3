/** How close together emails may come, and how many. */
import type { Limits } from '#core/outbox/limits'
import { sendingLimits, setSendingLimits } from '#data/limits'
import type { House } from '../house'
import { write } from '../inner/transaction'
import { InputProblem } from '../problem'

export const sendingLimitsOf = ({ db }: House): Limits => sendingLimits(db)

/** Counts for what leaves from now on. */
export function saveSendingLimits(house: House, limits: Limits): void {
  if (limits.aDay !== null && limits.aWeek !== null && limits.aWeek < limits.aDay) throw new InputProblem([{ field: 'aWeek', problem: 'A week takes at least as many as one of its days.' }])
  write(house, () => setSendingLimits(house.db, limits))
  house.wake()
}
