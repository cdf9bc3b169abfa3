/** Giving money back and ending what is paid again and again: asked of the payment service, and counted once it tells. */
import { sayMoney } from '#core/money/money'
import { tally } from '#core/offers/purchase'
import { CheckoutProblem } from '#core/ports'
import type { Database } from '#data/connection'
import { findPayment, findPurchase, purchasesToEnd, paymentFactsOf, type PurchaseRow } from '#data/purchases'
import type { Instant } from '#core/time/zone'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { InputProblem, NotNow, NotThere } from '../problem'
import { settle, tell } from './tell'

/**
 * `amount` in minor units of the purchase's currency, of one payment. What was
 * sold elsewhere is given back there: here it is only written down. With the
 * last of the money no further payment is asked for: they have it no longer.
 * True if it is counted already; a payment service may tell later. Throws an
 * {@link InputProblem} if that is more than is left of the payment.
 */
export async function giveBack(
  context: WorkspaceContext, { purchaseId, paymentId, amount }: { purchaseId: number, paymentId: number, amount: number },
): Promise<boolean> {
  const { db } = context
  const purchase = purchaseOf(db, purchaseId)
  const payment = findPayment(db, paymentId)
  if (payment?.purchaseId !== purchaseId) throw new NotThere('This payment does not exist.')
  const left = payment.amount - payment.refunded
  if (left === 0) throw new InputProblem([{ field: 'amount', problem: 'All of this payment has been refunded.' }])
  if (!Number.isSafeInteger(amount) || amount < 1 || amount > left) throw new InputProblem([{
    field: 'amount',
    problem: `At most ${sayMoney({ amount: left, currency: purchase.currency })} of this payment is left. Enter more than zero.`,
  }])
  // The same wish twice in a row, from an impatient finger, is one: what had gone back before is part of its name.
  const ref = `${payment.ref}.b${payment.refunded}-${amount}`.slice(-120)
  await asked(context, purchase, () =>
    context.checkout!.refund({ order: purchase.orderKey, payment: payment.ref, ref, amount, currency: purchase.currency }), () => {
    tell(context, `by-hand.${purchase.id}.${ref}`, {
      order: purchase.orderKey, fact: { kind: 'refunded', ref, of: payment.ref, at: context.clock.now(), amount },
      currency: purchase.currency, sale: null,
    })
  })
  if (purchase.paid - purchase.refunded === amount && goesOn(purchase)) await end(context, purchase)
  return findPayment(db, paymentId)!.refunded > payment.refunded
}

/** No further payment is asked for; what is paid for is kept until its end. True if that is counted already. */
export async function endPurchase(context: WorkspaceContext, purchaseId: number): Promise<boolean> {
  const purchase = purchaseOf(context.db, purchaseId)
  if (!goesOn(purchase)) throw new NotNow('There are no further payments to cancel.')
  await end(context, purchase)
  return purchaseOf(context.db, purchaseId).endedAt !== null
}

/** Whether a further payment is going to be asked for. */
const goesOn = ({ endedAt, paidUntilAt }: PurchaseRow): boolean => endedAt === null && paidUntilAt !== null

const end = (context: WorkspaceContext, purchase: PurchaseRow): Promise<void> =>
  asked(context, purchase, () => context.checkout!.end(purchase.orderKey), () => {
    tell(context, `by-hand.${purchase.id}.ended`, {
      order: purchase.orderKey, fact: { kind: 'ended', at: context.clock.now() }, currency: null, sale: null,
    })
  })

async function asked(
  context: WorkspaceContext, { cameBy }: PurchaseRow, ofService: () => Promise<void>, byHand: () => void,
): Promise<void> {
  if (cameBy !== 'checkout') return byHand()
  if (!context.checkout) throw new NotNow('No payment service is set. Add it in Settings.')
  try {
    await ofService()
  }
  catch (error) {
    if (error instanceof CheckoutProblem) throw new NotNow(error.message)
    throw error
  }
}

/** What has ended and is paid for no longer is over now. */
export function endDuePurchases(context: WorkspaceContext, at: Instant): number {
  const { db } = context
  return transact(context, () => {
    const rows = purchasesToEnd(db, at, 200)
    for (const row of rows) settle(
      db, row, tally(paymentFactsOf(db, row.orderKey).map(({ fact }) => fact)).purchase!, { at: row.overDueAt!, causeId: row.eventId },
    )
    return rows.length
  })
}

function purchaseOf(db: Database, id: number): PurchaseRow {
  const purchase = findPurchase(db, id)
  if (!purchase) throw new NotThere('This purchase no longer exists.')
  return purchase
}
