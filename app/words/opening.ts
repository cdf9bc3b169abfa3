/** How the opening of an offer goes as it is typed just now, published or not. */
import { openingPlan, type OpeningPlan } from '#core/offers/opening'
import { standingOf, type OfferContent } from '#core/offers/offer'
import type { Instant } from '#core/time/zone'
import type { OfferView } from '#core/views/offers'

const planned = (draft: OfferContent, { taken, waiting }: OfferView, now: Instant, people: number): OpeningPlan =>
  draft.waiting
    ? openingPlan({ ...draft, waiting: draft.waiting }, { now, taken, waiting: people, turnEnds: waiting?.turnEnds ?? [] })
    : { bits: [], unheard: people }

export const aheadAsTyped = (draft: OfferContent, view: OfferView, now: Instant): OpeningPlan =>
  planned(draft, view, now, view.waiting?.people ?? 0)

/** With so many as might wait; where it can be bought now, from its closing on. Null if it then simply stays so. */
export function aheadWith(people: number, draft: OfferContent, view: OfferView, now: Instant): OpeningPlan | null {
  const standing = standingOf(draft, now, view.taken)
  if (standing.is !== 'open') return planned(draft, view, now, people)
  return standing.until === null ? null : planned(draft, view, standing.until, people)
}
