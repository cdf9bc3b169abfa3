/** What a payment service tells: looked at, written down once, and counted together with all else that was told of the order. */
import { dequal } from 'dequal'
import { checkAddress, tidyName } from '#core/people/address'
import { isGone } from '#core/people/status'
import type { Price } from '#core/offers/price'
import { isRenewed } from '#core/offers/price'
import { tally, type Payment, type Purchase } from '#core/offers/purchase'
import { standOfPurchase } from '#core/offers/standing'
import { readPaymentEvent, type Sale, type PaymentEvent } from '#core/offers/paymentEvent'
import type { WebhookHeaders } from '#core/ports'
import { DAY, localOf, type Instant } from '#core/time/zone'
import type { Database } from '#data/connection'
import { findRemembered } from '#data/erasing'
import { appendEvent, writingAs } from '#data/events'
import { couponByCode, findOfferBySlug } from '#data/offers'
import { findPerson, findPersonByKey, insertPerson } from '#data/people'
import {
  endCheckout, findCheckout, findPurchaseOfOrder, insertUnmatchedPaymentEvent, insertPayment, insertPurchase, insertPaymentEvent,
  isKnownEvent, nextPurchaseId, paymentsOfPurchase, replaceCheckouts, paymentFactsOf, updatePayment,
  updatePurchase, type CheckoutRow, type PurchaseRow,
} from '#data/purchases'
import { checkOpeningAt } from '#data/waits'
import { workspaceOf } from '#data/workspace'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { endWaitOfBuyer } from '../inner/facts/waits'
import { giveWhatOfferGives, keepRenewal, sendReceipt, takeBackWhatOfferGave, welcomeBuyer } from '../inner/actions/purchases'
import { catchUp } from '../inner/facts/reacting'
import { contentOfPurchase } from '../inner/purchased'

export type TellOutcome =
  | { is: 'counted' }
  /** The same was told before: nothing happens a second time. */
  | { is: 'known' }
  /** It is kept, and counts once its payment is told. */
  | { is: 'waits' }
  /** Nothing was done with it. */
  | { is: 'in-vain', problem: string }
  | { is: 'not-signed', problem: string }

/** A webhook as it came, from whomever. Only what is signed with our secret, and just now, is looked at. */
export function receiveWebhook(context: WorkspaceContext, headers: Partial<WebhookHeaders>, body: string): TellOutcome {
  const signed = context.webhooks.read(headers, body)
  if (!signed.ok) return { is: 'not-signed', problem: signed.problem }
  const read = readPaymentEvent(body)
  if (!read.ok) {
    transact(context, () =>
      insertUnmatchedPaymentEvent(context.db, { webhookId: signed.id, orderKey: null, problem: read.problem, at: context.clock.now() }))
    return { is: 'in-vain', problem: read.problem }
  }
  return tell(context, signed.id, read.paymentEvent)
}

export interface Sold { by: 'http' | 'csv', quiet: boolean, causeId: number | null }

/** For who delivers from within: throws what an endpoint would answer with trouble. */
export function mustBeTaken(outcome: TellOutcome): void {
  if (outcome.is === 'in-vain' || outcome.is === 'not-signed') throw new Error(outcome.problem)
}

/**
 * `sold`: how a sale that did not begin on a page of ours comes in; `quiet` starts no courses and wakes no rules; `causeId`: the event of
 * bringing it in.
 */
export function tell(
  context: WorkspaceContext, webhookId: string, paymentEvent: PaymentEvent, sold: Sold = { by: 'http', quiet: false, causeId: null },
): TellOutcome {
  const { db } = context
  const outcome = transact(context, (): TellOutcome => {
    if (isKnownEvent(db, webhookId)) return { is: 'known' }
    const now = context.clock.now()
    const problem = problemWith(db, paymentEvent, now)
    if (problem !== null) {
      insertUnmatchedPaymentEvent(db, { webhookId, orderKey: paymentEvent.order, problem, at: now })
      return { is: 'in-vain', problem }
    }
    // Clocks differ by a little: nothing happens later than now.
    const fact = { ...paymentEvent.fact, at: Math.min(paymentEvent.fact.at, now) }
    insertPaymentEvent(db, { webhookId, orderKey: paymentEvent.order, fact, currency: paymentEvent.currency, cameAt: now })
    return writingAs(db, { quiet: sold.quiet ? 'wakes-nothing' : null }, () => count(context, { ...paymentEvent, fact }, sold, now))
  })
  context.wake()
  return outcome
}

function problemWith(db: Database, { order, fact, currency, sale }: PaymentEvent, now: Instant): string | null {
  if (fact.at > now + DAY) return 'The time is in the future.'
  const purchase = findPurchaseOfOrder(db, order)
  const checkout = findCheckout(db, order)
  const known = purchase?.currency ?? checkout?.firstPrice.currency
  if (currency !== null && known !== undefined && currency !== known) return `This order is in ${known}, not in ${currency}.`
  const others = paymentFactsOf(db, order)
  const other = others.find(one => one.currency !== null && currency !== null && one.currency !== currency)
  if (other) return `This order was reported in ${other.currency} before, not in ${currency}.`
  if (fact.kind === 'refunded') {
    const before = others.map(one => one.fact)
    // Told twice under two identifiers, it is counted once.
    if (!before.some(one => one.kind === 'refunded' && one.ref === fact.ref) && tally([...before, fact]).uncounted.some(one =>
      one.fact === fact && one.why === 'too-much')) return 'The refund is larger than what is left of this payment.'
  }
  if (fact.kind !== 'paid' || purchase || checkout) return null
  if (!sale) return 'This order did not start here. Name the offer and the buyer’s address.'
  if (!findOfferBySlug(db, sale.offer)) return `There is no offer “${sale.offer}”: an offer is named by the end of its address.`
  const address = checkAddress(sale.email)
  return address.ok ? null : `The buyer’s address is wrong: ${address.problem}`
}

/** Brings the purchase to what everything told of its order comes to, and does what follows from the difference. */
function count(context: WorkspaceContext, { order, fact, sale, currency }: PaymentEvent, sold: Sold, now: Instant): TellOutcome {
  const { db } = context
  const checkout = findCheckout(db, order)
  const { purchase: tallied, uncounted } = tally(paymentFactsOf(db, order).map(one => one.fact))
  if (!tallied) {
    if (fact.kind !== 'refused' || !checkout) return { is: 'waits' }
    appendEvent(db, 'payment-refused', fact.at, { personId: checkout.personId, offerId: checkout.offerId, causeId: checkout.eventId })
    return { is: 'counted' }
  }
  const before = findPurchaseOfOrder(db, order)
  const purchase = before ?? begin(context, { order, tallied, checkout, sale, currency: currency!, sold, now })
  const content = contentOfPurchase(db, purchase)
  const cause = { at: now, causeId: purchase.eventId, ownAct: purchase.cameBy === 'checkout' }
  // Who was erased while they paid has bought it all the same; nobody is left to be given anything.
  if (!before && findPerson(db, purchase.personId)) {
    if (checkout) welcomeBuyer(db, checkout, cause)
    giveWhatOfferGives(db, purchase.personId, content, cause)
  }
  countPayments(db, purchase, tallied, now)
  const about = { personId: purchase.personId, offerId: purchase.offerId, purchaseId: purchase.id, causeId: purchase.eventId }
  let latestId = purchase.eventId
  const happened = (kind: Parameters<typeof appendEvent>[1], at: Instant, detail?: string) => {
    latestId = appendEvent(db, kind, at, { ...about, ...detail && { detail } })
  }
  const back = tallied.refunded - purchase.refunded
  if (back > 0) happened('refunded', fact.at, `${back} ${purchase.currency} ${tallied.refunded === tallied.paid ? 'whole' : 'part'}`)
  const disputed = tallied.payments.filter(one => one.disputed).length
  if (disputed > purchase.disputed) happened('disputed', fact.at)
  if (tallied.refusedAt !== null && fact.kind === 'refused') happened('payment-refused', fact.at)
  if (tallied.endedAt !== null && purchase.endedAt === null) happened('ending-asked', tallied.endedAt)
  settle(db, {
    ...purchase, paid: tallied.paid, refunded: tallied.refunded, disputed, refusedAt: tallied.refusedAt, endedAt: tallied.endedAt,
    boughtAt: tallied.payments[0]!.at,
  }, tallied, { at: now, causeId: latestId })
  return uncounted.some(one => dequal(one.fact, fact)) ? { is: 'waits' } : { is: 'counted' }
}

/** The purchase as it stands with its first payment; what is paid and given back is counted next. */
function begin(context: WorkspaceContext, { order, tallied, checkout, sale, currency, sold, now }: {
  order: string, tallied: Purchase, checkout: CheckoutRow | undefined, sale: Sale | null, currency: string, sold: Sold, now: Instant,
}): PurchaseRow {
  const { db } = context
  const [first] = tallied.payments
  const id = nextPurchaseId(db)
  const of = checkout
    ? {
        offerId: checkout.offerId, offerVersionId: checkout.offerVersionId, checkoutId: checkout.id, personId: checkout.personId,
        cameBy: 'checkout' as const, couponId: checkout.couponId, touchId: checkout.touchId,
        price: checkout.firstPrice, laterPrice: checkout.laterPrice,
      }
    : soldElsewhere(context, sale!, { amount: first!.amount, currency, by: sold.by, now })
  catchUp(db, of.personId, first!.at)
  const eventId = appendEvent(db, 'bought', first!.at, {
    personId: of.personId, offerId: of.offerId, purchaseId: id, causeId: checkout?.eventId ?? sold.causeId,
    detail: `${first!.amount} ${currency}`,
  })
  const purchase: PurchaseRow = {
    id, orderKey: order, ...of, currency, boughtAt: first!.at, toldAt: now, paid: 0, refunded: 0, disputed: 0, refusedAt: null,
    endedAt: null, paidUntilAt: null, overDueAt: null, overAt: null, eventId,
  }
  insertPurchase(db, purchase)
  endWaitOfBuyer(db, of.personId, of.offerId, now, eventId)
  if (checkout) {
    endCheckout(db, checkout.id, 'bought')
    replaceCheckouts(db, checkout, now)
  }
  return purchase
}

/** Who bought elsewhere is one of ours from now on; who has left stays gone, and whoever was erased comes back as what they were. */
function soldElsewhere(
  context: WorkspaceContext, sale: Sale,
  { amount, currency, by, now }: { amount: number, currency: string, by: 'http' | 'csv', now: Instant },
) {
  const { db, signer } = context
  const offer = findOfferBySlug(db, sale.offer)!
  const checked = checkAddress(sale.email)
  if (!checked.ok) throw new Error('The address was looked at before')
  const { shown, key } = checked.address
  const remembered = findRemembered(db, signer.digest(key))
  const personId = findPersonByKey(db, key)?.id ?? insertPerson(db, {
    address: shown, addressKey: key, firstName: tidyName(sale.firstName), status: remembered && isGone(remembered.status)
      ? remembered.status
      : 'active', zone: null, country: null, source: `offer:${offer.slug}`, createdAt: now,
  })
  const { price } = offer.published ?? offer.draft
  const paid: Price = { currency, amount, paying: isRenewed(price) ? price.paying : 'once', parts: 1 }
  const coupon = sale.coupon === '' ? undefined : couponByCode(db, offer.id, sale.coupon)
  return {
    offerId: offer.id, offerVersionId: null, checkoutId: null, personId, cameBy: by,
    couponId: coupon?.offerId === offer.id ? coupon.id : null, touchId: null,
    price: paid, laterPrice: isRenewed(price) ? paid : null,
  }
}

function countPayments(db: Database, purchase: PurchaseRow, { payments }: Purchase, now: Instant): void {
  const kept = new Map(paymentsOfPurchase(db, purchase.id).map(row => [row.ref, row]))
  const isFirst = kept.size === 0
  payments.forEach((payment, n) => {
    const row = kept.get(payment.ref)
    if (!row) takePayment(db, purchase, payment, isFirst && n === 0, now)
    else if (row.refunded !== payment.refunded || row.disputed !== Number(payment.disputed)) updatePayment(db, row.id, {
      refunded: payment.refunded, disputed: payment.disputed ? 1 : 0,
    })
  })
}

function takePayment(db: Database, purchase: PurchaseRow, payment: Payment, isFirst: boolean, now: Instant): void {
  const eventId = isFirst
    ? purchase.eventId
    : appendEvent(db, 'renewed', payment.at, {
      personId: purchase.personId, offerId: purchase.offerId, purchaseId: purchase.id, causeId: purchase.eventId,
      detail: `${payment.amount} ${purchase.currency}`,
    })
  // Who sold it elsewhere has given the receipt for it.
  const receiptYear = purchase.cameBy === 'checkout' ? Number(localOf(payment.at, workspaceOf(db).zone).date.slice(0, 4)) : null
  const id = insertPayment(db, {
    purchaseId: purchase.id, ref: payment.ref, at: payment.at, amount: payment.amount, refunded: payment.refunded,
    disputed: payment.disputed ? 1 : 0, receiptYear, eventId,
  })
  if (receiptYear !== null && findPerson(db, purchase.personId)) sendReceipt(db, purchase, { id, eventId }, now)
}

/** Writes down how the purchase stands, and gives or takes away where that has changed. */
export function settle(db: Database, purchase: PurchaseRow, tallied: Purchase, { at, causeId }: { at: Instant, causeId: number }): void {
  const content = contentOfPurchase(db, purchase)
  const stand = standOfPurchase(tallied, purchase.price, workspaceOf(db).zone, at)
  const wasOver = purchase.overAt !== null
  updatePurchase(db, {
    ...purchase, paidUntilAt: stand.isOver ? null : stand.paidUntilAt, overDueAt: stand.overDueAt,
    overAt: stand.isOver ? purchase.overAt ?? at : null,
  })
  // A place may be free again, or gone.
  if (stand.isOver !== wasOver) checkOpeningAt(db, purchase.offerId, at)
  const cause = { at, causeId, ownAct: false }
  const isThere = findPerson(db, purchase.personId) !== undefined
  if (stand.isOver && !wasOver) {
    const endId = tallied.refunded === tallied.paid && tallied.paid > 0 ? causeId : appendEvent(db, 'purchase-ended', purchase.overDueAt
      ?? at, { personId: purchase.personId, offerId: purchase.offerId, purchaseId: purchase.id, causeId })
    if (isThere) takeBackWhatOfferGave(db, purchase, content, { ...cause, causeId: endId })
  }
  if (!isThere) return
  if (!stand.isOver && wasOver) giveWhatOfferGives(db, purchase.personId, content, cause)
  if (isRenewed(purchase.price)) keepRenewal(db, purchase.personId, content, stand.isOver ? null : stand.paidUntilAt, cause)
}
