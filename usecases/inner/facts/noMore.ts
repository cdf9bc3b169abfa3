/** Somebody wants to hear no more of an offer. */
import type { Instant } from '#core/time/zone'
import type { Database } from '#data/connection'
import { appendEvent } from '#data/events'
import { insertNoMore, saidNoMore } from '#data/purchases'
import { stopWaiting } from './waits'

/** What sells it is held back from them from now on, in the caller's transaction. Said twice is said once. */
export function markNoMore(db: Database, personId: number, offerId: number, at: Instant, causeId: number | null): void {
  if (saidNoMore(db, personId).some(one => one.offerId === offerId)) return
  const eventId = appendEvent(db, 'said-no-more', at, { personId, offerId, causeId })
  insertNoMore(db, { offerId, personId, at, eventId })
  stopWaiting(db, personId, offerId, at, eventId)
}
