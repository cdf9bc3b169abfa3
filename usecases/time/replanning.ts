/** The zone or the sending hours of the workspace changed: everybody is planned anew, a few people in each transaction. */
import type { Instant } from '#core/time/zone'
import type { Database } from '#data/connection'
import { findEnrolment } from '#data/enrolments'
import {
  advanceReplanning, endReplanning, enrolmentsToReplan, entriesToReplan, insertReplanning, openReplanning, type ReplanningRow,
} from '#data/replannings'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { replanEntries } from '../inner/journeys/replanning'
import { upToDate } from '../inner/journeys/advancing'

/** Few enough that a sign-up hardly waits. */
const BATCH = 200

/** To be done by the engine; whoever is looked at before their turn is planned anew then, so that nothing goes by the old plan. */
export function replanEverybody(db: Database, why: ReplanningRow['why'], at: Instant, eventId: number): void {
  insertReplanning(db, { why, at, eventId })
}

/** The engine's bit of it; true if there was one. */
export function replanSome(context: WorkspaceContext): boolean {
  const { db } = context
  return openReplanning(db) !== undefined && transact(context, () => {
    const open = openReplanning(db)
    if (!open) return false
    const rows = enrolmentsToReplan(db, open, BATCH)
    for (const { id } of rows) upToDate(db, findEnrolment(db, id)!)
    const entries = rows.length < BATCH ? entriesToReplan(db, open.entriesAfterId, BATCH) : []
    for (const { personId } of entries) replanEntries(db, personId, open.at, open.eventId)
    advanceReplanning(db, {
      id: open.id, afterId: rows.at(-1)?.id ?? open.afterId, entriesAfterId: entries.at(-1)?.id ?? open.entriesAfterId,
      done: Math.min(open.total, open.done + rows.length + entries.length),
    })
    if (rows.length < BATCH && entries.length < BATCH) endReplanning(db, open.id, context.clock.now())
    return true
  })
}
