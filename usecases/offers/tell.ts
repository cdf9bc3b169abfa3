/** What a payment service tells: looked at, written down once, and counted together with all else that was told of the order. */
import { checkAddress, tidyName } from '#core/people/address'
import { isGone } from '#core/people/status'
import type { Price } from '#core/offers/price'
import { isRenewed } from '#core/offers/price'
import { reckon, type Payment, type Purchase } from '#core/offers/purchase'
import { standOfPurchase } from '#core/offers/standing'
import { readTelling, type Sale, type Telling } from '#core/offers/telling'
import type { WebhookHeaders } from '#core/ports'
import { DAY, localOf, type Instant } from '#core/time/zone'
import type { Database } from '#data/connection'
import { findRemembered } from '#data/erasing'
import { appendEvent, writingAs } from '#data/events'
import { couponByCode, findOfferBySlug } from '#data/offers'
import { findPerson, findPersonByKey, insertPerson } from '#data/people'
import {
  endCheckout, findCheckout, findPurchaseOfOrder, insertInVain, insertPayment, insertPurchase, insertTelling, isTold, nextPurchaseId, paymentsOfPurchase, replaceCheckouts, toldOf, updatePayment,
  updatePurchase, type CheckoutRow, type PurchaseRow,
} from '#data/purchases'
import { lookAtOpening } from '#data/waits'
import { workspaceOf } from '#data/workspace'
import type { House } from '../house'
import { catchUp } from '../inner/enrolments'
import { write } from '../inner/transaction'
import { endWaitOfBuyer } from '../inner/waits'
import type { Cause } from '../inner/marks'
import { contentOfPurchase, giveWhatOfferGives, keepRenewal, sendReceipt, takeBackWhatOfferGave, welcomeBuyer } from '../inner/purchases'

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
export function receiveWebhook(house: House, headers: Partial<WebhookHeaders>, body: string): TellOutcome {
  const signed = house.webhooks.read(headers, body)
  if (!signed.ok) return { is: 'not-signed', problem: signed.problem }
  const read = readTelling(body)
  if (!read.ok) {
    write(house, () => insertInVain(house.db, { webhookId: signed.id, orderKey: null, problem: read.problem, at: house.clock.now() }))
    return { is: 'in-vain', problem: read.problem }
  }
  return tell(house, signed.id, read.telling)
}

export interface Sold { by: 'http' | 'csv', quiet: boolean, causeId: number | null }

/** For who delivers from within: throws what an endpoint would answer with trouble. */
export function mustBeTaken(outcome: TellOutcome): void {
  if (outcome.is === 'in-vain' || outcome.is === 'not-signed') throw new Error(outcome.problem)
}

/** `sold`: how a sale that did not begin on a page of ours comes in; `quiet` starts no courses and wakes no rules; `causeId`: the event of bringing it in. */
export function tell(house: House, webhookId: string, telling: Telling, sold: Sold = { by: 'http', quiet: false, causeId: null }): TellOutcome {
  const { db } = house
  const outcome = write(house, (): TellOutcome => {
    if (isTold(db, webhookId)) return { is: 'known' }
    const now = house.clock.now()
    const problem = problemWith(db, telling, now)
    if (problem !== null) {
      insertInVain(db, { webhookId, orderKey: telling.order, problem, at: now })
      return { is: 'in-vain', problem }
    }
    // Clocks differ by a little: nothing happens later than now.
    const told = { ...telling.told, at: Math.min(telling.told.at, now) }
    insertTelling(db, { webhookId, orderKey: telling.order, told, currency: telling.currency, cameAt: now })
    return writingAs(db, { quiet: sold.quiet }, () => count(house, { ...telling, told }, sold, now))
  })
  house.wake()
  return outcome
}

function problemWith(db: Database, { order, told, currency, sale }: Telling, now: Instant): string | null {
  if (told.at > now + DAY) return 'This is said to have happened later than now.'
  const purchase = findPurchaseOfOrder(db, order)
  const checkout = findCheckout(db, order)
  const known = purchase?.currency ?? checkout?.firstPrice.currency
  if (currency !== null && known !== undefined && currency !== known) return `This order is in ${known}, not in ${currency}.`
  const others = toldOf(db, order)
  const other = others.find(one => one.currency !== null && currency !== null && one.currency !== currency)
  if (other) return `This order was told in ${other.currency} before, not in ${currency}.`
  if (told.kind === 'refunded') {
    const before = others.map(one => one.told)
    // Told twice under two identifiers, it is counted once.
    if (!before.some(one => one.kind === 'refunded' && one.ref === told.ref) && reckon([...before, told]).uncounted.some(one => one.told === told && one.why === 'too-much')) return 'More would go back than was left of this payment.'
  }
  if (told.kind !== 'paid' || purchase || checkout) return null
  if (!sale) return 'This order did not begin here: say which offer was sold, and to which address.'
  if (!findOfferBySlug(db, sale.offer)) return `There is no offer “${sale.offer}”: an offer is named by the end of its address.`
  const address = checkAddress(sale.email)
  return address.ok ? null : `The buyer’s address is not right: ${address.problem}`
}

/** Brings the purchase to what everything told of its order comes to, and does what follows from the difference. */
function count(house: House, { order, told, sale, currency }: Telling, sold: Sold, now: Instant): TellOutcome {
  const { db } = house
  const checkout = findCheckout(db, order)
  const { purchase: reckoned, uncounted } = reckon(toldOf(db, order).map(one => one.told))
  if (!reckoned) {
    if (told.kind !== 'refused' || !checkout) return { is: 'waits' }
    appendEvent(db, 'payment-refused', told.at, { personId: checkout.personId, offerId: checkout.offerId, causeId: checkout.eventId })
    return { is: 'counted' }
  }
  const before = findPurchaseOfOrder(db, order)
  const purchase = before ?? begin(house, { order, reckoned, checkout, sale, currency: currency!, sold, now })
  const content = contentOfPurchase(db, purchase)
  const cause = { at: now, causeId: purchase.eventId, ownAct: purchase.cameBy === 'checkout', quiet: sold.quiet }
  // Who was erased while they paid has bought it all the same; nobody is left to be given anything.
  if (!before && findPerson(db, purchase.personId)) {
    if (checkout) welcomeBuyer(db, checkout, cause)
    giveWhatOfferGives(db, purchase.personId, content, cause)
  }
  countPayments(db, purchase, reckoned, now)
  const about = { personId: purchase.personId, offerId: purchase.offerId, purchaseId: purchase.id, causeId: purchase.eventId }
  let latestId = purchase.eventId
  const happened = (kind: Parameters<typeof appendEvent>[1], at: Instant, detail?: string) => {
    latestId = appendEvent(db, kind, at, { ...about, ...detail && { detail } })
  }
  const back = reckoned.refunded - purchase.refunded
  if (back > 0) happened('refunded', told.at, `${back} ${purchase.currency} ${reckoned.refunded === reckoned.paid ? 'whole' : 'part'}`)
  const disputed = reckoned.payments.filter(one => one.disputed).length
  if (disputed > purchase.disputed) happened('disputed', told.at)
  if (reckoned.refusedAt !== null && told.kind === 'refused') happened('payment-refused', told.at)
  if (reckoned.endedAt !== null && purchase.endedAt === null) happened('ending-asked', reckoned.endedAt)
  settle(db, { ...purchase, paid: reckoned.paid, refunded: reckoned.refunded, disputed, refusedAt: reckoned.refusedAt, endedAt: reckoned.endedAt, boughtAt: reckoned.payments[0]!.at }, reckoned, { at: now, causeId: latestId, quiet: sold.quiet })
  return uncounted.some(one => JSON.stringify(one.told) === JSON.stringify(told)) ? { is: 'waits' } : { is: 'counted' }
}

/** The purchase as it stands with its first payment; what is paid and given back is counted next. */
function begin(house: House, { order, reckoned, checkout, sale, currency, sold, now }: { order: string, reckoned: Purchase, checkout: CheckoutRow | undefined, sale: Sale | null, currency: string, sold: Sold, now: Instant }): PurchaseRow {
  const { db } = house
  const [first] = reckoned.payments
  const id = nextPurchaseId(db)
  const of = checkout
    ? {
        offerId: checkout.offerId, offerVersionId: checkout.offerVersionId, checkoutId: checkout.id, personId: checkout.personId, cameBy: 'checkout' as const, couponId: checkout.couponId, touchId: checkout.touchId,
        price: checkout.firstPrice, laterPrice: checkout.laterPrice,
      }
    : soldElsewhere(house, sale!, { amount: first!.amount, currency, by: sold.by, now })
  catchUp(db, of.personId, first!.at)
  const eventId = appendEvent(db, 'bought', first!.at, { personId: of.personId, offerId: of.offerId, purchaseId: id, causeId: checkout?.eventId ?? sold.causeId, detail: `${first!.amount} ${currency}` })
  const purchase: PurchaseRow = {
    id, orderKey: order, ...of, currency, boughtAt: first!.at, toldAt: now, paid: 0, refunded: 0, disputed: 0, refusedAt: null, endedAt: null, paidUntilAt: null, overDueAt: null, overAt: null, eventId,
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
function soldElsewhere(house: House, sale: Sale, { amount, currency, by, now }: { amount: number, currency: string, by: 'http' | 'csv', now: Instant }) {
  const { db, signer } = house
  const offer = findOfferBySlug(db, sale.offer)!
  const checked = checkAddress(sale.email)
  if (!checked.ok) throw new Error('The address was looked at before')
  const { shown, key } = checked.address
  const remembered = findRemembered(db, signer.digest(key))
  const personId = findPersonByKey(db, key)?.id ?? insertPerson(db, {
    address: shown, addressKey: key, firstName: tidyName(sale.firstName), status: remembered && isGone(remembered.status) ? remembered.status : 'active', zone: null, country: null, source: `offer:${offer.slug}`, createdAt: now,
  })
  const { price } = offer.published ?? offer.draft
  const paid: Price = { currency, amount, paying: isRenewed(price) ? price.paying : 'once', parts: 1 }
  const coupon = sale.coupon === '' ? undefined : couponByCode(db, offer.id, sale.coupon)
  return {
    offerId: offer.id, offerVersionId: null, checkoutId: null, personId, cameBy: by, couponId: coupon?.offerId === offer.id ? coupon.id : null, touchId: null,
    price: paid, laterPrice: isRenewed(price) ? paid : null,
  }
}

function countPayments(db: Database, purchase: PurchaseRow, { payments }: Purchase, now: Instant): void {
  const kept = new Map(paymentsOfPurchase(db, purchase.id).map(row => [row.ref, row]))
  const isFirst = kept.size === 0
  payments.forEach((payment, n) => {
    const row = kept.get(payment.ref)
    if (!row) takePayment(db, purchase, payment, isFirst && n === 0, now)
    else if (row.refunded !== payment.refunded || row.disputed !== Number(payment.disputed)) updatePayment(db, row.id, { refunded: payment.refunded, disputed: payment.disputed ? 1 : 0 })
  })
}

function takePayment(db: Database, purchase: PurchaseRow, payment: Payment, isFirst: boolean, now: Instant): void {
  const eventId = isFirst
    ? purchase.eventId
    : appendEvent(db, 'renewed', payment.at, { personId: purchase.personId, offerId: purchase.offerId, purchaseId: purchase.id, causeId: purchase.eventId, detail: `${payment.amount} ${purchase.currency}` })
  // Who sold it elsewhere has given the receipt for it.
  const receiptYear = purchase.cameBy === 'checkout' ? Number(localOf(payment.at, workspaceOf(db).zone).date.slice(0, 4)) : null
  const id = insertPayment(db, { purchaseId: purchase.id, ref: payment.ref, at: payment.at, amount: payment.amount, refunded: payment.refunded, disputed: payment.disputed ? 1 : 0, receiptYear, eventId })
  if (receiptYear !== null && findPerson(db, purchase.personId)) sendReceipt(db, purchase, { id, eventId }, now)
}

/** Writes down how the purchase stands, and gives or takes away where that has changed. */
export function settle(db: Database, purchase: PurchaseRow, reckoned: Purchase, { at, causeId, quiet }: Pick<Cause, 'at' | 'quiet'> & { causeId: number }): void {
  const content = contentOfPurchase(db, purchase)
  const stand = standOfPurchase(reckoned, purchase.price, workspaceOf(db).zone, at)
  const wasOver = purchase.overAt !== null
  updatePurchase(db, { ...purchase, paidUntilAt: stand.isOver ? null : stand.paidUntilAt, overDueAt: stand.overDueAt, overAt: stand.isOver ? purchase.overAt ?? at : null })
  // A place may be free again, or gone.
  if (stand.isOver !== wasOver) lookAtOpening(db, purchase.offerId, at)
  const cause = { at, causeId, ownAct: false, quiet }
  const isThere = findPerson(db, purchase.personId) !== undefined
  if (stand.isOver && !wasOver) {
    const endId = reckoned.refunded === reckoned.paid && reckoned.paid > 0 ? causeId : appendEvent(db, 'purchase-ended', purchase.overDueAt ?? at, { personId: purchase.personId, offerId: purchase.offerId, purchaseId: purchase.id, causeId })
    if (isThere) takeBackWhatOfferGave(db, purchase, content, { ...cause, causeId: endId })
  }
  if (!isThere) return
  if (!stand.isOver && wasOver) giveWhatOfferGives(db, purchase.personId, content, cause)
  if (isRenewed(purchase.price)) keepRenewal(db, purchase.personId, content, stand.isOver ? null : stand.paidUntilAt, cause)
}
