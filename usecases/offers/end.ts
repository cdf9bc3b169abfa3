/** Giving money back and ending what is paid again and again: asked of the payment service, and counted once it tells. */
import { sayMoney } from '#core/money/money'
import { reckon } from '#core/offers/purchase'
import { CheckoutProblem } from '#core/ports'
import type { Database } from '#data/connection'
import { findPayment, findPurchase, purchasesToEnd, toldOf, type PurchaseRow } from '#data/purchases'
import type { Instant } from '#core/time/zone'
import type { House } from '../house'
import { write } from '../inner/transaction'
import { InputProblem, NotNow, NotThere } from '../problem'
import { settle, tell } from './tell'

/**
 * `amount` in minor units of the purchase's currency, of one payment. What was
 * sold elsewhere is given back there: here it is only written down. With the
 * last of the money no further payment is asked for: they have it no longer.
 * True if it is counted already; a payment service may tell later. Throws an
 * {@link InputProblem} if that is more than is left of the payment.
 */
export async function giveBack(house: House, { purchaseId, paymentId, amount }: { purchaseId: number, paymentId: number, amount: number }): Promise<boolean> {
  const { db } = house
  const purchase = purchaseOf(db, purchaseId)
  const payment = findPayment(db, paymentId)
  if (payment?.purchaseId !== purchaseId) throw new NotThere('This payment is not there.')
  const left = payment.amount - payment.refunded
  if (left === 0) throw new InputProblem([{ field: 'amount', problem: 'All of this payment has gone back already.' }])
  if (!Number.isSafeInteger(amount) || amount < 1 || amount > left) throw new InputProblem([{ field: 'amount', problem: `At most ${sayMoney({ amount: left, currency: purchase.currency })} of this payment is left, and at least the smallest coin goes back.` }])
  // The same wish twice in a row, from an impatient finger, is one: what had gone back before is part of its name.
  const ref = `${payment.ref}.b${payment.refunded}-${amount}`.slice(-120)
  await asked(house, purchase, () => house.checkout!.refund({ order: purchase.orderKey, payment: payment.ref, ref, amount, currency: purchase.currency }), () => {
    tell(house, `by-hand.${purchase.id}.${ref}`, { order: purchase.orderKey, told: { kind: 'refunded', ref, of: payment.ref, at: house.clock.now(), amount }, currency: purchase.currency, sale: null })
  })
  if (purchase.paid - purchase.refunded === amount && goesOn(purchase)) await end(house, purchase)
  return findPayment(db, paymentId)!.refunded > payment.refunded
}

/** No further payment is asked for; what is paid for is kept until its end. True if that is counted already. */
export async function endPurchase(house: House, purchaseId: number): Promise<boolean> {
  const purchase = purchaseOf(house.db, purchaseId)
  if (!goesOn(purchase)) throw new NotNow('There is no further payment that could be ended.')
  await end(house, purchase)
  return purchaseOf(house.db, purchaseId).endedAt !== null
}

/** Whether a further payment is going to be asked for. */
const goesOn = ({ endedAt, paidUntilAt }: PurchaseRow): boolean => endedAt === null && paidUntilAt !== null

const end = (house: House, purchase: PurchaseRow): Promise<void> =>
  asked(house, purchase, () => house.checkout!.end(purchase.orderKey), () => {
    tell(house, `by-hand.${purchase.id}.ended`, { order: purchase.orderKey, told: { kind: 'ended', at: house.clock.now() }, currency: null, sale: null })
  })

async function asked(house: House, { cameBy }: PurchaseRow, ofService: () => Promise<void>, byHand: () => void): Promise<void> {
  if (cameBy !== 'checkout') return byHand()
  if (!house.checkout) throw new NotNow('The payment service is not set: see Settings.')
  try {
    await ofService()
  }
  catch (error) {
    if (error instanceof CheckoutProblem) throw new NotNow(error.message)
    throw error
  }
}

/** What has ended and is paid for no longer is over now. */
export function endDuePurchases(house: House, at: Instant): number {
  const { db } = house
  return write(house, () => {
    const rows = purchasesToEnd(db, at, 200)
    for (const row of rows) settle(db, row, reckon(toldOf(db, row.orderKey).map(({ told }) => told)).purchase!, { at: row.overDueAt!, causeId: row.eventId })
    return rows.length
  })
}

function purchaseOf(db: Database, id: number): PurchaseRow {
  const purchase = findPurchase(db, id)
  if (!purchase) throw new NotThere('This purchase is not there any more.')
  return purchase
}
