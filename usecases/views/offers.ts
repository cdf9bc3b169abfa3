/** Offers for their screens. */
import { saysTheSame } from '#core/message/same'
import { starts } from '#core/sequence/entries'
import { sumsOf } from '#core/money/money'
import { couponProblem } from '#core/offers/coupon'
import { standingOf } from '#core/offers/offer'
import { sayPrice, sayStanding } from '#core/offers/say'
import { picturesOf } from '#core/page/content'
import type { CouponLine, OfferLine, OfferView } from '#core/views/offers'
import { readTogether } from '#data/connection'
import { allCourses } from '#data/courses'
import { findFile } from '#data/files'
import { allOffers, couponsOf, findOffer, type OfferRow } from '#data/offers'
import { picturesByIds } from '#data/pictures'
import { couponUses, placesTaken } from '#data/purchases'
import { purchasesWith, salesOfOffers } from '#data/sales'
import { workspaceOf } from '#data/workspace'
import type { WorkspaceContext } from '../context'
import { revisionOf } from '../inner/revision'
import { missingOfOffer } from '../offers/save'
import { NotThere } from '../problem'
import { waitingView } from './openings'

function line(context: WorkspaceContext, offer: OfferRow, sales: ReturnType<typeof salesOfOffers>): OfferLine {
  const { db } = context
  const { id, name, slug, published, draft, versionNumber } = offer
  const shown = published ?? draft
  const now = context.clock.now()
  const standing = standingOf(shown, now, placesTaken(db, id, now))
  const own = sales.filter(({ offerId }) => offerId === id)
  return {
    id, name, slug, url: `${context.baseUrl}/s/${slug}`, status: published ? 'published' : 'draft',
    hasChanges: published !== null && !saysTheSame(published, draft), versionNumber,
    price: shown.price.amount === 0 ? 'no price yet' : sayPrice(shown.price),
    closesAt: shown.closesAt,
    stands: published ? sayStanding(standing, workspaceOf(db).zone) : 'Draft', standing: standing.is,
    sold: own.reduce((sum, { sold }) => sum + sold, 0), money: sumsOf(own),
  }
}

export const offerLines = (context: WorkspaceContext): OfferLine[] => readTogether(context.db, () => {
  const sales = salesOfOffers(context.db)
  return allOffers(context.db).map(offer => line(context, offer, sales))
})

export const offerView = (context: WorkspaceContext, id: number): OfferView => readTogether(context.db, () => {
  const { db } = context
  const offer = findOffer(db, id)
  if (!offer) throw new NotThere('This offer no longer exists.')
  const { draft, published } = offer
  const now = context.clock.now()
  const leadsTo = allCourses(db)
    .filter(course => course.status === 'running' && starts(course.id, course.published!, draft.gives))
    .map(({ id, name }) => ({ id, name }))
  const taken = placesTaken(db, id, now)
  const places = (published ?? draft).places
  return {
    ...line(context, offer, salesOfOffers(db)), draft, revision: revisionOf(context, offer), missing: missingOfOffer(context, draft),
    pictures: picturesByIds(db, picturesOf(draft)),
    file: draft.gives.fileId === null ? null : findFile(db, draft.gives.fileId) ?? null, coupons: couponLines(
      context, id, (published ?? draft).price.currency
    ), leadsTo, taken, waiting: waitingView(db, id, now), oversold: places === null ? 0 : Math.max(0, taken.sold + taken.held - places),
  }
})

function couponLines({ db, clock }: WorkspaceContext, offerId: number, currency: string): CouponLine[] {
  const now = clock.now()
  return couponsOf(db, offerId).map((coupon) => {
    const all = couponUses(db, coupon.id, now)
    const used = purchasesWith(db, coupon.id)
    return { ...coupon, used, kept: all - used, problem: couponProblem(coupon, { offerId, currency, now, used: all }) }
  })
}
