/** Makes a subscriber of practice somebody who reads: how keenly is all that has to be said. */
import { insertInventedReader } from '#data/reading'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { NotNow } from '../problem'

/** `keenness` is 0 to 100: how likely they open, click and stay. Only in practice: live readers are real. */
export function inventReader(context: WorkspaceContext, personId: number, keenness: number): void {
  if (context.mode !== 'practice') throw new NotNow('Made-up readers are for practice only.')
  transact(context, () => insertInventedReader(context.db, personId, keenness))
}
