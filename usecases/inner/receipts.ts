/** Receipts, and the address of a buyer's own page. */
import type { Receipt } from '#core/offers/receipt'
import { linesOfPayment, sayReceiptNumber } from '#core/offers/receipt'
import { sayCut } from '#core/offers/say'
import type { Database } from '#data/connection'
import { findCoupon, findOffer } from '#data/offers'
import { findPerson } from '#data/people'
import { findPayment, findPurchase, paymentsOfPurchase } from '#data/purchases'
import { sellingOf } from '#data/selling'
import { workspaceOf } from '#data/workspace'
import type { WorkspaceContext } from '../context'
import { contentOfPurchase } from './purchased'

/** Of a payment that was given one. */
export function receiptOf(db: Database, paymentId: number): Receipt {
  const payment = findPayment(db, paymentId)!
  const purchase = findPurchase(db, payment.purchaseId)!
  const workspace = workspaceOf(db)
  const person = findPerson(db, purchase.personId)
  const coupon = purchase.couponId === null ? undefined : findCoupon(db, purchase.couponId)
  const { price } = contentOfPurchase(db, purchase)
  const nth = paymentsOfPurchase(db, purchase.id).findIndex(({ id }) => id === paymentId) + 1
  const lines = linesOfPayment({
    title: findOffer(db, purchase.offerId)!.name, listAmount: price.amount,
    couponWords: coupon ? `${coupon.code}: ${sayCut(coupon, price)}` : null,
    amount: payment.amount, nth, of: purchase.price.paying === 'parts' ? purchase.price.parts : null,
  })
  return {
    number: payment.receiptYear === null ? '' : sayReceiptNumber(payment.receiptYear, payment.receiptN!), at: payment.at,
    zone: workspace.zone,
    ...sellerOf(db),
    buyer: person ? [person.firstName, person.address].filter(Boolean).join(', ') : '', currency: purchase.currency, lines,
    total: payment.amount, refunded: payment.refunded,
  }
}

/** Who sells and the line about tax, as settings say; else the sender and the postal address. */
export function sellerOf(db: Database): Pick<Receipt, 'seller' | 'taxLine'> {
  const { seller, taxLine } = sellingOf(db)
  const { senderName, name, postalAddress } = workspaceOf(db)
  return { seller: seller.trim() || [senderName || name, postalAddress].filter(Boolean).join('\n'), taxLine }
}

/** Theirs alone: it shows what they have bought. */
export const buyerUrl = ({ baseUrl, signer }: WorkspaceContext, purchaseId: number): string =>
  `${baseUrl}/b/${signer.sign('buyer', String(purchaseId))}`
