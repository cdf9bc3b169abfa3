/**
 * Clearing away what people have of something that is gone: some at once, the others by the engine, so that nobody waits however many they
 * are.
 */
import type { Instant } from '#core/time/zone'
import { clearSome, firstClearing, insertClearing, type Clearing } from '#data/clearings'
import { immediate, type Database } from '#data/connection'
import type { WorkspaceContext } from '../context'

const AT_ONCE = 250
const BATCH = 1000

/** Within a transaction of the caller's, once nothing finds the thing any more. */
export function clearAway(db: Database, clearing: Clearing, at: Instant): void {
  clearSome(db, { ...clearing, id: insertClearing(db, clearing) }, at, AT_ONCE)
}

/** The engine's bit of it; true if there was one. */
export function clearMore(context: WorkspaceContext): boolean {
  const { db } = context
  if (!firstClearing(db)) return false
  // What went is nothing for house rules to wake on: those that waited for it went with it.
  return immediate(db, () => {
    const clearing = firstClearing(db)
    if (clearing) clearSome(db, clearing, context.clock.now(), BATCH)
    return clearing !== undefined
  })
}
