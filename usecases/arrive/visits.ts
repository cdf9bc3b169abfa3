/** Visits of opt-in pages and of offers are counted: how many, on which day, brought by what. Who it was is neither asked nor kept. */
import { OTHERS, type Touch } from '#core/page/touch'
import type { Instant } from '#core/time/zone'
import { localOf } from '#core/time/zone'
import { writeIfFree } from '#data/connection'
import { isOffer } from '#data/offers'
import { isPage } from '#data/pages'
import { addVisits, broughtOn, touchIdOf, touchesOfDay } from '#data/sources'
import { workspaceOf } from '#data/workspace'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'

export interface Visits { shown: { kind: 'page' | 'offer', id: number }, touch: Touch, at: Instant, visits: number }

/** So many different touches of a page are kept apart on one day: invented addresses must not fill the database. */
export const MOST_TOUCHES_A_DAY = 200

/**
 * Adds them up, in one transaction. Visits of something that is gone meanwhile
 * count for nothing. With `ifFree`, nothing is done and false returned while
 * somebody else is writing: they can wait, and who looks at a page cannot.
 */
export function countVisits(context: WorkspaceContext, counted: Visits[], ifFree = false): boolean {
  const { db } = context
  const add = () => {
    const { zone } = workspaceOf(db)
    for (const { shown: { kind, id }, touch, at, visits } of counted) {
      if (!(kind === 'page' ? isPage : isOffer)(db, id)) continue
      const day = localOf(at, zone).date
      const apart = touchesOfDay(db, kind, id, day) < MOST_TOUCHES_A_DAY || broughtOn(db, kind, id, day, touch)
      addVisits(db, kind, { id, day, touchId: touchIdOf(db, apart ? touch : OTHERS), visits })
    }
  }
  if (ifFree) return writeIfFree(db, add)
  transact(context, add)
  return true
}
