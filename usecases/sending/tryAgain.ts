/** Emails that were given up are tried once more, because the owner says so. */
import { queueAgain } from '#data/engineRoom'
import type { House } from '../house'
import { write } from '../inner/transaction'

/** One of them, or all. The last look is taken as always. Returns how many. */
export function tryAgain(house: House, outboxId: number | null): number {
  const queued = write(house, () => queueAgain(house.db, house.clock.now(), outboxId))
  house.wake()
  return queued
}
