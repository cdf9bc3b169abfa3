/** All sending of a workspace is stopped by its owner, and released. */
import { workOf } from '#data/due'
import { appendEvent } from '#data/events'
import { holdSending, workspaceOf } from '#data/workspace'
import type { HeldView } from '#core/views/engine'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'

/** Nothing leaves while it is held; whatever comes due waits, and leaves once it is released. What is just leaving has left. */
export function setHeld(context: WorkspaceContext, held: boolean): void {
  const { db } = context
  transact(context, () => {
    const at = context.clock.now()
    if ((workspaceOf(db).heldSinceAt !== null) === held) return
    holdSending(db, held ? at : null)
    appendEvent(db, held ? 'sending-held' : 'sending-released', at)
  })
  context.wake()
}

/** Null while sending is not held. */
export function heldView({ db, clock }: Pick<WorkspaceContext, 'db' | 'clock'>): HeldView | null {
  const { heldSinceAt } = workspaceOf(db)
  return heldSinceAt === null ? null : { sinceAt: heldSinceAt, waiting: workOf(db, 'email', clock.now()).due }
}
