/** Offers, coupons, purchases and what they come to. */
import { setResponseHeader } from 'h3'
import { webhookSecretProblem } from '#runtime/payments'
import type { OffersOperations } from '#core/operations/offers'
import { pastSales } from '../files/index'
import { handle, type Operations, seenRevision } from '../http'
import { askIfInside } from '../inside'
import { couponInput, giveBackInput, newOfferInput, offerInput, pastSalesQuery, salesQuery, sellingInput } from '../offerSchemas'
import { shownInput } from '../schemas'
import { inReader } from '../reader/index'
import { openWorkspaces } from '../workspaces'
import { removeCoupon, restoreCoupon, saveCoupon, usableCodes } from '#usecases/offers/coupons'
import { endPurchase, giveBack } from '#usecases/offers/end'
import { createOffer, publishOffer, removeOffer, saveOffer, showOfferVersion, takeOfferDown } from '#usecases/offers/save'
import { forgetUnmatchedPaymentEvent, saveSelling, sellingView } from '#usecases/settings/selling'
import { salesCsv } from '#usecases/views/exportSales'
import { offerView } from '#usecases/views/offers'

const MOST_BYTES = 20_000_000

export const offers: Operations<OffersOperations> = {
  'GET /coupons': handle({}, ({ context }) => usableCodes(context)),
  'GET /offers': handle({}, ({ event, context }) => inReader(event, context.mode, 'offers')),
  'POST /offers': handle({ body: newOfferInput }, ({ context, body }) => ({ id: createOffer(context, body.name, body.from) })),
  'GET /offers/:id': handle({}, ({ context, id }) => offerView(context, id())),
  'PUT /offers/:id': handle({ body: offerInput }, ({ event, context, id, body }) => {
    saveOffer(context, id(), body, seenRevision(event))
    return offerView(context, id())
  }),
  'DELETE /offers/:id': handle({}, ({ context, id }) => removeOffer(context, id())),
  'POST /offers/:id/coupons': handle({ body: couponInput }, ({ context, id, body }) => {
    saveCoupon(context, id(), null, body)
    return offerView(context, id())
  }),
  'POST /offers/:id/publish': handle({}, async ({ event, context, id }) => {
    await publishOffer(context, id(), seenRevision(event))
    return offerView(context, id())
  }),
  'DELETE /offers/:id/publish': handle({}, ({ context, id }) => {
    takeOfferDown(context, id())
    return offerView(context, id())
  }),
  'PUT /offers/:id/shown': handle({ body: shownInput }, ({ context, id, body }) => {
    showOfferVersion(context, id(), body)
    return offerView(context, id())
  }),
  'GET /offers/:id/sales': handle({ query: salesQuery }, ({ event, context, id, query }) => {
    const { days, state, coupon, source, word, email, page } = query
    return inReader(event, context.mode, 'offerSales', {
      id: id(), days, state, couponId: coupon, source: source === null ? null : { kind: source, word }, email, page,
    })
  }),
  'GET /offers/:id/sales-file': handle({}, ({ event, context, id }) => {
    const text = salesCsv(context, id())
    setResponseHeader(event, 'content-type', 'text/csv; charset=utf-8')
    setResponseHeader(event, 'content-disposition', `attachment; filename="sales-${id()}.csv"`)
    return text
  }),
  'PUT /offers/:id/coupons/:couponId': handle({ body: couponInput }, ({ context, id, body }) => {
    saveCoupon(context, id(), id('couponId'), body)
    return offerView(context, id())
  }),
  'DELETE /offers/:id/coupons/:couponId': handle({}, ({ context, id }) => {
    removeCoupon(context, id(), id('couponId'))
    return offerView(context, id())
  }),
  'POST /offers/:id/coupons/:couponId/again': handle({}, ({ context, id }) => {
    restoreCoupon(context, id(), id('couponId'))
    return offerView(context, id())
  }),
  'POST /purchases/:id/end': handle({}, async ({ context, id }) => ({ counted: await endPurchase(context, id()) })),
  'POST /purchases/:id/refund': handle({
    body: giveBackInput,
  }, async ({ context, id, body }) => ({ counted: await giveBack(context, { purchaseId: id(), ...body }) })),
  'POST /past-sales': handle({
    upload: MOST_BYTES, query: pastSalesQuery,
  }, ({ context, bytes, query: { bring, spec, unknown, starts } }) => pastSales(context, { bytes, spec, unknown, starts }, bring)),
  'DELETE /unmatched-payment-events/:id': handle({}, ({ context, param }) => forgetUnmatchedPaymentEvent(context, param('id'))),
  'GET /selling': handle({}, ({ context }) => sellingView(context, openWorkspaces().ownPaymentsSecret(context))),
  'PUT /selling': handle({ body: sellingInput }, async ({ context, body: { insideMeant, ...body } }) => {
    await askIfInside('paymentsUrl', body.paymentsUrl, { kept: sellingView(context, '').paymentsUrl, meant: insideMeant })
    saveSelling(context, body, webhookSecretProblem)
    return sellingView(context, openWorkspaces().ownPaymentsSecret(context))
  }),
}
