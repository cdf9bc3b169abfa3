/** Who waits for an offer, and how its opening will go. */
import { openingPlan, type OpeningPlan } from '#core/offers/opening'
import type { Instant } from '#core/time/zone'
import type { WaitingView } from '#core/views/offers'
import type { Database } from '#data/connection'
import { findOffer, publishedOfferById } from '#data/offers'
import { placesTaken } from '#data/purchases'
import { countTold, countWaiting, turnEnds, waitingByOffer } from '#data/waits'
import { openingOf } from '../inner/facts/waits'
import type { ForecastSource } from '../inner/forecastSource'

const NOTHING: OpeningPlan = { bits: [], unheard: 0 }

/** By what is published: nobody is told of a draft. */
function planOf(db: Database, offerId: number, waiting: number, now: Instant): OpeningPlan {
  const offer = publishedOfferById(db, offerId)
  if (!offer?.content.waiting || offer.openingMessageId === null) return { ...NOTHING, unheard: waiting }
  return openingPlan({ ...offer.content, waiting: offer.content.waiting }, {
    now, taken: placesTaken(db, offerId, now), waiting, turnEnds: turnEnds(db, offerId, now),
  })
}

/** What people who wait will be told, offer by offer. */
export const openingsAhead: ForecastSource = ({ db }, { now, until }, to) => {
  for (const { offerId, people: waiting } of waitingByOffer(db)) {
    for (const { at, people } of planOf(db, offerId, waiting, now).bits) if (at <= until) to(openingOf(offerId))(at, people, 0)
  }
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
