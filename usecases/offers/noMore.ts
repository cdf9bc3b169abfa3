/** Somebody wants to hear no more of an offer, or may hear of it again. */
import { appendEvent } from '#data/events'
import { markNoMore } from '../inner/facts/noMore'
import { isOffer } from '#data/offers'
import { findPerson } from '#data/people'
import { deleteNoMore } from '#data/purchases'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { NotThere } from '../problem'

/** What sells it is held back from them from now on. Said twice is said once. `causeId`: the event their choice came from; null by hand. */
export function sayNoMore(context: WorkspaceContext, personId: number, offerId: number, causeId: number | null = null): void {
  const { db, clock } = context
  transact(context, () => {
    if (!findPerson(db, personId) || !isOffer(db, offerId)) throw new NotThere('This no longer exists.')
    markNoMore(db, personId, offerId, clock.now(), causeId)
  })
}

export function takeBackNoMore(context: WorkspaceContext, personId: number, offerId: number, causeId: number | null = null): void {
  const { db, clock } = context
  transact(context, () => {
    if (deleteNoMore(db, offerId, personId)) appendEvent(db, 'took-back-no-more', clock.now(), { personId, offerId, causeId })
  })
}
