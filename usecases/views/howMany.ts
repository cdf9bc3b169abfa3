/** How many people something would be done to, counted before it begins. */
import { toCount } from '#core/audience/sql'
import { readTogether } from '#data/connection'
import { countWhere } from '#data/people'
import type { WorkspaceContext } from '../context'
import { momentOf } from '../inner/moment'
import { whichOf, type AskedPeople } from '../inner/taskPeople'

export function howMany({ db, clock }: WorkspaceContext, whom: AskedPeople): number {
  const at = clock.now()
  return readTogether(db, () => countWhere(
    db, whom.kind === 'fitting' ? { search: whom.search, where: toCount(whom.condition, momentOf(db, at)) } : whichOf(db, whom, at),
  ))
}
