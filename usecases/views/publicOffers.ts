/** What the public page of an offer needs to know. */
import { picturesOf } from '#core/page/content'
import type { OfferPageView } from '#core/offers/render'
import { standingOf } from '#core/offers/offer'
import type { OfferContent } from '#core/offers/offer'
import { couponsOf, findOfferBySlug, type PublishedOffer } from '#data/offers'
import { picturesByIds } from '#data/pictures'
import { placesTaken } from '#data/purchases'
import { workspaceOf } from '#data/workspace'
import type { WorkspaceContext } from '../context'
import { NotThere } from '../problem'
import { readCode } from '../offers/checkout'
import { publishedOffer } from '../offers/visitor'

export type { PublishedOffer }

export const publishedOfferAt = (context: WorkspaceContext, slug: string): PublishedOffer => publishedOffer(context.db, slug)

/** What buyers come back to, also where the offer was taken down while they paid. */
export function thanksOf({ db }: WorkspaceContext, slug: string): { name: string, content: OfferContent } {
  const offer = findOfferBySlug(db, slug)
  if (!offer) throw new NotThere('There is nothing at this address.')
  return { name: offer.name, content: offer.published ?? offer.draft }
}

/** How it stands now, and what a code typed or brought along comes to. A code that does not count is told as a problem. */
export function drawingOfOffer(context: WorkspaceContext, offer: PublishedOffer, code: string): Pick<OfferPageView, 'content' | 'standing'
  | 'zone' | 'hasCoupons' | 'coupon' | 'code' | 'pictures' | 'now' | 'url'> & { codeProblem: string | null } {
  const { db } = context
  const { content, id, slug } = offer
  const now = context.clock.now()
  const { coupon, problem } = readCode(db, offer, code, now)
  return {
    content, standing: standingOf(content, now, placesTaken(db, id, now)), zone: workspaceOf(db).zone,
    hasCoupons: couponsOf(db, id).length > 0, coupon, code, codeProblem: problem,
    pictures: new Map(picturesByIds(db, picturesOf(content)).map(picture => [picture.id, picture])), now,
    url: `${context.baseUrl}/s/${slug}`,
  }
}
