/** Taking back what one has just chosen: an accidental click costs nothing. */
import { DAY, type Instant } from '#core/time/zone'
import { insertUndo, latestUndo, markUndone } from '#data/choices'
import type { Database } from '#data/connection'
import { appendEvent } from '#data/events'
import { findEmail } from '#data/outbox'
import { findPerson } from '#data/people'
import type { WorkspaceContext } from '../context'
import { setAsBefore, standingNow } from '../inner/actions/asBefore'
import { transact } from '../inner/reactor/transaction'
import { NotNow } from '../problem'

/** For so long the last change can be taken back. */
export const TAKE_BACK_WITHIN = DAY

/** Notes how they stand, before something changes, in the caller's transaction. */
export function keepUndo(db: Database, personId: number, outboxId: number, at: Instant): void {
  insertUndo(db, { personId, outboxId, at, before: standingNow(db, personId) })
}

/** Whether there is something to take back now. */
export function canTakeBack(db: Database, personId: number, now: Instant): boolean {
  const undo = latestUndo(db, personId)
  return undo !== undefined && undo.doneAt === null && now - undo.at <= TAKE_BACK_WITHIN && undo.before.status !== 'pending'
}

/**
 * As it was before the latest change: status, lists, interests, courses from
 * where they stood, and the mail that was withdrawn. Throws a {@link NotNow}
 * where nothing can be taken back any more. By any email of theirs.
 */
export function takeBack(context: WorkspaceContext, outboxId: number): void {
  const { db } = context
  transact(context, () => {
    const at = context.clock.now()
    const personId = findEmail(db, outboxId)?.personId
    const person = personId === undefined ? undefined : findPerson(db, personId)
    if (personId === undefined || !person || !canTakeBack(db, personId, at)) throw new NotNow('There is nothing left to undo.')
    const { id, before } = latestUndo(db, personId)!
    markUndone(db, id, at)
    const causeId = appendEvent(db, 'took-back', at, { personId })
    setAsBefore(db, personId, before, { at, causeId })
  })
  context.wake()
}
