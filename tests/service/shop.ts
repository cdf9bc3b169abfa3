/** A workshop that sells: an offer, published, and people who buy it at the payment stand-in. */
import type { CouponInput } from '#core/offers/coupon'
import { newOffer, type OfferContent } from '#core/offers/offer'
import type { PaymentFact } from '#core/offers/purchase'
import { writePaymentEvent, type Sale } from '#core/offers/paymentEvent'
import { eventsOfPerson } from '#data/events'
import { emailsOfPerson } from '#data/outbox'
import { findPersonByKey } from '#data/people'
import { findPurchaseOfOrder, purchasesOfPerson, type PurchaseRow } from '#data/purchases'
import { leave } from '#usecases/arrive/leave'
import { saveCoupon } from '#usecases/offers/coupons'
import { startCheckout } from '#usecases/offers/checkout'
import { createOffer, publishOffer, saveOffer } from '#usecases/offers/save'
import { receiveWebhook, type TellOutcome } from '#usecases/offers/tell'
import type { PracticeCard } from '#runtime/payments'
import { listeningCarrier, openContext as openPlain, type Setting, type Workshop } from './workshop'

export interface Shop extends Setting { offerId: number }

/** €49.00 once, unless said otherwise; buying gives the list. */
export async function openShop(setting: Setting, content: Partial<OfferContent> = {}): Promise<Shop> {
  const { context, listId } = setting
  const offerId = createOffer(context, 'Long-Stitch Journals')
  const base = newOffer('Long-Stitch Journals')
  const draft = { ...base, price: { currency: 'EUR', amount: 4900, paying: 'once' as const, parts: 1 }, ...content }
  saveOffer(context, offerId, {
    name: 'Long-Stitch Journals', slug: 'long-stitch', draft: { ...draft, gives: { ...base.gives, listIds: [listId], ...content.gives } },
  })
  await publishOffer(context, offerId)
  return { ...setting, offerId }
}

export const coupon = (context: Workshop, offerId: number, more: Partial<CouponInput> = {}): number =>
  saveCoupon(context, offerId, null, {
    code: 'EARLY', cut: { kind: 'percent', hundredths: 3000 }, fromAt: null, untilAt: null, uses: null, lasts: 'every', ...more,
  })

/** Presses the button; returns the key of the order. */
export async function press(context: Workshop, email: string, more: { code?: string, firstName?: string } = {}): Promise<string> {
  const { url } = await startCheckout(context, { slug: 'long-stitch', email, firstName: '', code: '', zone: '', ip: '192.0.2.9', ...more })
  return context.signer.read('pay', url.slice(url.lastIndexOf('/') + 1))!
}

export async function buy(
  context: Workshop, email: string, { card = 'works', ...more }: { code?: string, firstName?: string, card?: PracticeCard } = {},
): Promise<PurchaseRow> {
  const order = await press(context, email, more)
  await context.standin.pay(order, card)
  return findPurchaseOfOrder(context.db, order)!
}

export const bought = (context: Workshop, email: string): PurchaseRow[] =>
  purchasesOfPerson(context.db, findPersonByKey(context.db, email)!.id)

let webhooks = 0

/** As a payment service would tell it, over a signed webhook. */
export function told(
  context: Workshop, order: string, fact: PaymentFact,
  { sale = null, currency = 'EUR', id = `w${++webhooks}` }: { sale?: Sale | null, currency?: string, id?: string } = {},
): TellOutcome {
  const body = writePaymentEvent({ order, fact, currency: 'amount' in fact ? currency : null, sale })
  return receiveWebhook(context, context.webhooks.sign({ id, at: Date.now(), body }), body)
}

/** Whose emails are kept as they leave. */
export const openContext = (): Workshop => openPlain({ carrier: listeningCarrier() })
/** Every receipt that has left. */
export const mailboxOf = (context: Workshop) => (context.carrier as ReturnType<typeof listeningCarrier>).mails.filter(({ subject }) =>
  subject === 'Your receipt').map(({ subject, html, text, to }) => ({ subject, html, text, to: to.address }))
/** By the address in any email of theirs. */
export const leaveAll = (context: Workshop, personId: number) =>
  leave(context, emailsOfPerson(context.db, personId)[0]!.id, { what: 'everything' })
export const kindsOf = (context: Workshop, email: string) =>
  eventsOfPerson(context.db, findPersonByKey(context.db, email)!.id).map(({ kind }) => kind).reverse()
export const statusOf = (context: Workshop, email: string) => findPersonByKey(context.db, email)!.status
