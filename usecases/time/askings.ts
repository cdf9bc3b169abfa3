/** Askings for a yes whose reminder or end has come. */
import type { Instant } from '#core/time/zone'
import { dueConfirmations, markReminded } from '#data/confirmations'
import { appendEvent } from '#data/events'
import { findPageVersion } from '#data/pages'
import type { House } from '../house'
import { write } from '../inner/transaction'
import { endAsking, sendAsking } from '../inner/askings'

const BATCH = 200

/** Returns how many were done. */
export function doDueAskings(house: House, at: Instant): number {
  const { db } = house
  return write(house, () => {
    const rows = dueConfirmations(db, at, BATCH)
    for (const row of rows) {
      // After an outage the end counts from its own time, and a reminder that nobody could follow any more is left out.
      if (at > row.expiresAt) {
        const causeId = appendEvent(db, 'not-confirmed', row.expiresAt + 1, { personId: row.personId, pageId: row.pageId, causeId: row.eventId })
        endAsking(db, row, 'expired', row.expiresAt + 1, causeId)
      }
      else {
        const page = findPageVersion(db, row.pageVersionId)!
        markReminded(db, row)
        sendAsking(db, row, page, page.messages.reminder!, at, 'reminder')
      }
    }
    return rows.length
  })
}
