/** Emails that were given up are tried once more, because the owner says so. */
import { queueAgain } from '#data/engineRoom'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'

/** One of them, or all. The last look is taken as always. Returns how many. */
export function tryAgain(context: WorkspaceContext, outboxId: number | null): number {
  const queued = transact(context, () => queueAgain(context.db, context.clock.now(), outboxId))
  context.wake()
  return queued
}
