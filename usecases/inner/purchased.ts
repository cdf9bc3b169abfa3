/** What was bought, and how mail about it goes. */
import type { OfferContent } from '#core/offers/offer'
import type { Database } from '#data/connection'
import { standsFor } from '#data/markEnds'
import { allLists } from '#data/marks'
import { findOffer, findOfferVersion, type PublishedOffer } from '#data/offers'
import type { PurchaseRow } from '#data/purchases'

/** The offer as it was when they bought; what was sold elsewhere goes by what is sold now, else by the draft. */
export function contentOfPurchase(
  db: Database, { offerVersionId, offerId }: Pick<PurchaseRow, 'offerVersionId' | 'offerId'>,
): OfferContent {
  if (offerVersionId !== null) return findOfferVersion(db, offerVersionId)!.content
  const offer = findOffer(db, offerId)!
  return offer.published ?? offer.draft
}

/** Where consent was given, in words. */
export const originOf = ({ name, number }: Pick<PublishedOffer, 'name' | 'number'>): string =>
  `the page of the offer ${name}, version ${number}`

/** The first of these lists that is still there; else the workspace's first, which always is. */
export const listOfMail = (db: Database, listIds: readonly number[]): number =>
  listIds.map(id => standsFor(db, 'lists', id)).find(id => id !== null) ?? allLists(db)[0]!.id
