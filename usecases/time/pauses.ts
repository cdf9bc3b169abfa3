/** Pauses whose time is over. */
import type { Instant } from '#core/time/zone'
import { endingPauses } from '#data/choices'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { endPause } from '../inner/facts/pauses'

/** Each ends at its own time, however late it is looked at. Returns how many did. */
export function endDuePauses(context: WorkspaceContext, at: Instant): number {
  const { db } = context
  return transact(context, () => {
    const rows = endingPauses(db, at, 200)
    for (const { personId, untilAt } of rows) endPause(db, personId, untilAt, null)
    return rows.length
  })
}
