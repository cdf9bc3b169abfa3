/** Points are reckoned anew for everybody after their rule has changed. */
import { write } from '#data/connection'
import { isReckoning, reckonSome } from '#data/scores'
import type { House } from '../house'

/** Few enough that a sign-up hardly waits. */
const BATCH = 500

/** Some people more; true if there was anything to do. Nobody has done anything, so no rule wakes. */
export function reckonScores(house: House): boolean {
  const { db } = house
  return isReckoning(db) && write(db, () => reckonSome(db, house.clock.now(), BATCH))
}
