/** The transaction of a use case: what it does, and then what the house rules do about that. */
import { write as writeRows } from '#data/connection'
import { lastEventId } from '#data/events'
import type { House } from '../house'
import { react } from './rules'

/**
 * Runs `work` in one immediate transaction. Before it is committed, every
 * event that was written gets its points and wakes its rules, in the order of
 * the events; what these write is looked at in its turn. Inside another
 * transaction it simply joins it.
 */
export function write<Result>(house: Pick<House, 'db' | 'clock'>, work: () => Result): Result {
  const { db } = house
  if (db.inTransaction) return work()
  return writeRows(db, () => {
    const before = lastEventId(db)
    const result = work()
    react(house, before)
    return result
  })
}
