/** Points are reckoned anew for everybody after their rule has changed. */
import { immediate } from '#data/connection'
import { isRecalculating, recalculateSome } from '#data/scores'
import type { WorkspaceContext } from '../context'

/** Few enough that a sign-up hardly waits. */
const BATCH = 500

/** Some people more; true if there was anything to do. Nobody has done anything, so no rule wakes. */
export function recalculateScores(context: WorkspaceContext): boolean {
  const { db } = context
  return isRecalculating(db) && immediate(db, () => recalculateSome(db, context.clock.now(), BATCH))
}
