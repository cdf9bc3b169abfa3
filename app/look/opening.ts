/** How the opening of an offer goes as it is typed just now, published or not. */
import { openingPlan, type OpeningPlan } from '#core/offers/opening'
import type { OfferContent } from '#core/offers/offer'
import type { Instant } from '#core/time/zone'
import type { OfferView } from '#core/views/offers'

/** `people`: how many wait; those who do if left out. */
export function aheadAsTyped(draft: OfferContent, { taken, waiting: known }: OfferView, now: Instant, people = known?.people ?? 0): OpeningPlan {
  const { waiting } = draft
  return waiting ? openingPlan({ ...draft, waiting }, { now, taken, waiting: people, turnEnds: known?.turnEnds ?? [] }) : { bits: [], unheard: people }
}
