/** Which ways people took at forks and holds so far, for reckoning ahead. */
import type { Shares } from '#core/sequence/ahead'
import type { Database } from '#data/connection'
import { waysTaken } from '#data/events'

/** As many more of each way are counted as if one person had taken it: few takings say little. */
const PRIOR = 1

/** Of each way the part that took it, among all who came to that step. */
export function sharesSoFar(db: Database): Shares {
  const taken = waysTaken(db)
  return (stepId, wayIds) => {
    const counts = wayIds.map(wayId => (taken.get(`${stepId}/${wayId}`) ?? 0) + PRIOR)
    const all = counts.reduce((sum, n) => sum + n, 0)
    return counts.map(n => n / all)
  }
}
