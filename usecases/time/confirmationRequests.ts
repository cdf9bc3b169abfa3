/** Askings for a yes whose reminder or end has come. */
import type { Instant } from '#core/time/zone'
import { dueConfirmations, markReminded } from '#data/confirmations'
import { appendEvent } from '#data/events'
import { findPageVersion } from '#data/pages'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { endConfirmationRequest, sendConfirmationRequest } from '../inner/facts/confirmationRequests'

const BATCH = 200

/** Returns how many were done. */
export function sendDueConfirmationRequests(context: WorkspaceContext, at: Instant): number {
  const { db } = context
  return transact(context, () => {
    const rows = dueConfirmations(db, at, BATCH)
    for (const row of rows) {
      // After an outage the end counts from its own time, and a reminder that nobody could follow any more is left out.
      if (at > row.expiresAt) {
        const causeId = appendEvent(db, 'not-confirmed', row.expiresAt + 1, {
          personId: row.personId, pageId: row.pageId, causeId: row.eventId,
        })
        endConfirmationRequest(db, row, 'expired', row.expiresAt + 1, causeId)
      }
      else {
        const page = findPageVersion(db, row.pageVersionId)!
        markReminded(db, row)
        sendConfirmationRequest(db, row, page, page.messages.reminder!, at, 'reminder')
      }
    }
    return rows.length
  })
}
