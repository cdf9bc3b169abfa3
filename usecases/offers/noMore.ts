/** Somebody wants to hear no more of an offer, or may hear of it again. */
import { appendEvent } from '#data/events'
import { markNoMore } from '../inner/noMore'
import { isOffer } from '#data/offers'
import { findPerson } from '#data/people'
import { deleteNoMore } from '#data/purchases'
import type { House } from '../house'
import { write } from '../inner/transaction'
import { NotThere } from '../problem'

/** What sells it is held back from them from now on. Said twice is said once. `causeId`: the event their choice came from; null by hand. */
export function sayNoMore(house: House, personId: number, offerId: number, causeId: number | null = null): void {
  const { db, clock } = house
  write(house, () => {
    if (!findPerson(db, personId) || !isOffer(db, offerId)) throw new NotThere('This is not there any more.')
    markNoMore(db, personId, offerId, clock.now(), causeId)
  })
}

export function takeBackNoMore(house: House, personId: number, offerId: number, causeId: number | null = null): void {
  const { db, clock } = house
  write(house, () => {
    if (deleteNoMore(db, offerId, personId)) appendEvent(db, 'took-back-no-more', clock.now(), { personId, offerId, causeId })
  })
}
