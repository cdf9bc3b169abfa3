/** Somebody wants to hear no more of an offer, or may hear of it again. */
import { write } from '#data/connection'
import { appendEvent } from '#data/events'
import { isOffer } from '#data/offers'
import { findPerson } from '#data/people'
import { deleteNoMore, insertNoMore, saidNoMore } from '#data/purchases'
import type { House } from '../house'
import { NotThere } from '../problem'

/** What sells it is held back from them from now on. Said twice is said once. `causeId`: the event their choice came from; null by hand. */
export function sayNoMore({ db, clock }: House, personId: number, offerId: number, causeId: number | null = null): void {
  write(db, () => {
    if (!findPerson(db, personId) || !isOffer(db, offerId)) throw new NotThere('This is not there any more.')
    if (saidNoMore(db, personId).some(one => one.offerId === offerId)) return
    const at = clock.now()
    insertNoMore(db, { offerId, personId, at, eventId: appendEvent(db, 'said-no-more', at, { personId, offerId, causeId }) })
  })
}

export function takeBackNoMore({ db, clock }: House, personId: number, offerId: number, causeId: number | null = null): void {
  write(db, () => {
    if (deleteNoMore(db, offerId, personId)) appendEvent(db, 'took-back-no-more', clock.now(), { personId, offerId, causeId })
  })
}
