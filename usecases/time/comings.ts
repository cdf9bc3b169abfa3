/** Those whose time to come into a course has come. */
import type { Instant } from '#core/time/zone'
import { dueComings } from '#data/doors'
import type { House } from '../house'
import { comeIn } from '../inner/comings'
import { write } from '../inner/transaction'

const BATCH = 200

export function letDueIn(house: House, at: Instant): number {
  return write(house, () => {
    const rows = dueComings(house.db, at, BATCH)
    for (const row of rows) comeIn(house.db, row)
    return rows.length
  })
}
