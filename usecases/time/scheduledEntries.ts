/** Those whose time to come into a course has come. */
import type { Instant } from '#core/time/zone'
import { dueEntries } from '#data/entries'
import type { WorkspaceContext } from '../context'
import { enrolDue } from '../inner/journeys/scheduledEntries'
import { transact } from '../inner/reactor/transaction'

const BATCH = 200

export function letDueIn(context: WorkspaceContext, at: Instant): number {
  return transact(context, () => {
    const rows = dueEntries(context.db, at, BATCH)
    for (const row of rows) enrolDue(context.db, row)
    return rows.length
  })
}
