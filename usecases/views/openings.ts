/** Who waits for an offer, and how its opening will go. */
import { openingPlan, type OpeningBit, type OpeningPlan } from '#core/offers/opening'
import type { Instant } from '#core/time/zone'
import type { WaitingView } from '#core/views/offers'
import type { Database } from '#data/connection'
import { findOffer, publishedOfferById } from '#data/offers'
import { placesTaken } from '#data/purchases'
import { countTold, countWaiting, turnEnds, waitingByOffer } from '#data/waits'

const NOTHING: OpeningPlan = { bits: [], unheard: 0 }

/** By what is published: nobody is told of a draft. */
function planOf(db: Database, offerId: number, waiting: number, now: Instant): OpeningPlan {
  const offer = publishedOfferById(db, offerId)
  if (!offer?.content.waiting || offer.openingMessageId === null) return { ...NOTHING, unheard: waiting }
  return openingPlan({ ...offer.content, waiting: offer.content.waiting }, {
    now, taken: placesTaken(db, offerId, now), waiting, turnEnds: turnEnds(db, offerId, now),
  })
}

/** What will be told by `until`, offer by offer. */
export function openingsUntil(db: Database, now: Instant, until: Instant): { offerId: number, bits: OpeningBit[] }[] {
  return waitingByOffer(db).map(({ offerId, people }) => ({ offerId, bits: planOf(db, offerId, people, now).bits.filter(({ at }) => at <= until) }))
}

/** Null where there is no waiting list and nobody waits. */
export function waitingView(db: Database, offerId: number, now: Instant): WaitingView | null {
  const offer = findOffer(db, offerId)!
  const people = countWaiting(db, offerId)
  if (people === 0 && !(offer.published ?? offer.draft).waiting && !offer.draft.waiting) return null
  return {
    people, told: countTold(db, offerId), turnEnds: turnEnds(db, offerId, now), ahead: planOf(db, offerId, people, now),
    canTell: (publishedOfferById(db, offerId)?.openingMessageId ?? null) !== null,
  }
}
