/** Offers, and what was sold. */
import type { SalesSpec } from '#core/exchange/sales'
import type { CouponInput } from '#core/offers/coupon'
import type { SourceKey } from '#core/page/touch'
import type { OfferInput, OfferLine, OfferView, PastSalesView, SaleState, SalesView, Selling, SellingView } from '#core/views/offers'
import type { Download, Nothing } from './operation'

export interface OffersOperations {
  /** All codes that can be used, with the offer of each. */
  'GET /coupons': { answer: { code: string, offer: string }[] }
  'GET /offers': { answer: OfferLine[] }
  'POST /offers': { body: { name: string, from: number | null }, answer: { id: number } }
  'GET /offers/:id': { answer: OfferView }
  'PUT /offers/:id': { body: OfferInput, answer: OfferView }
  'DELETE /offers/:id': { answer: Nothing }
  'POST /offers/:id/coupons': { body: CouponInput, answer: OfferView }
  'POST /offers/:id/publish': { answer: OfferView }
  'DELETE /offers/:id/publish': { answer: OfferView }
  'PUT /offers/:id/shown': { body: { from: number | null, to: number | null }, answer: OfferView }
  'GET /offers/:id/sales': {
    query: {
      days: number, state: SaleState, coupon: number | null, source: SourceKey['kind'] | null, word: string, email: string | null
      page: number
    }
    answer: SalesView
  }
  'GET /offers/:id/sales-file': { answer: Download }
  'PUT /offers/:id/coupons/:couponId': { body: CouponInput, answer: OfferView }
  'DELETE /offers/:id/coupons/:couponId': { answer: OfferView }
  'POST /offers/:id/coupons/:couponId/again': { answer: OfferView }
  'POST /purchases/:id/end': { answer: { counted: boolean } }
  'POST /purchases/:id/refund': { body: { paymentId: number, amount: number }, answer: { counted: boolean } }
  'POST /past-sales': {
    query: { bring: boolean, spec: SalesSpec | null, unknown: 'leave' | 'bring', starts: boolean }
    file: true
    answer: PastSalesView
  }
  'DELETE /unmatched-payment-events/:id': { answer: Nothing }
  'GET /selling': { answer: SellingView }
  'PUT /selling': { body: Selling & { insideMeant?: boolean }, answer: SellingView }
}
