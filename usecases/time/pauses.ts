/** Pauses whose time is over. */
import type { Instant } from '#core/time/zone'
import { endingPauses } from '#data/choices'
import type { House } from '../house'
import { write } from '../inner/transaction'
import { endPause } from '../inner/pauses'

/** Each ends at its own time, however late it is looked at. Returns how many did. */
export function endDuePauses(house: House, at: Instant): number {
  const { db } = house
  return write(house, () => {
    const rows = endingPauses(db, at, 200)
    for (const { personId, untilAt } of rows) endPause(db, personId, untilAt, null)
    return rows.length
  })
}
