/** What somebody bought, for the owner. */
import { sayReceiptNumber } from '#core/offers/receipt'
import { dueAt, isRenewed } from '#core/offers/price'
import { unused } from '#core/offers/refund'
import type { PurchaseOfPerson } from '#core/views/offers'
import { findCoupon, findOffer } from '#data/offers'
import { paymentsOfPurchase, purchasesOfPerson, type PaymentRow, type PurchaseRow } from '#data/purchases'
import { workspaceOf } from '#data/workspace'
import type { House } from '../house'
import { buyerUrl } from '../inner/receipts'
import { saidToBuyer } from '../offers/buyer'

/** The latest first. */
export function purchasesView(house: House, personId: number): PurchaseOfPerson[] {
  const { db } = house
  const { zone } = workspaceOf(db)
  return purchasesOfPerson(db, personId).map((purchase) => {
    const payments = paymentsOfPurchase(db, purchase.id)
    return {
      id: purchase.id, offerId: purchase.offerId, offerName: findOffer(db, purchase.offerId)!.name, currency: purchase.currency, boughtAt: purchase.boughtAt, cameBy: purchase.cameBy,
      says: [...saidToBuyer(purchase, zone, 'them'), ...purchase.disputed > 0 ? ['Their bank asks for the money back.'] : []], isOver: purchase.overAt !== null, couponCode: purchase.couponId === null ? null : findCoupon(db, purchase.couponId)?.code ?? null,
      payments: payments.map(({ id, at, amount, refunded, disputed, receiptYear, receiptN }) => ({ id, at, amount, refunded, disputed: disputed === 1, receipt: receiptYear === null ? null : sayReceiptNumber(receiptYear, receiptN!) })),
      canEnd: purchase.overAt === null && purchase.endedAt === null && purchase.paidUntilAt !== null, buyerUrl: buyerUrl(house, purchase.id), unused: unusedOf(purchase, payments, house.clock.now(), zone),
    }
  })
}

/** Of the last payment of what is renewed: the share of its stretch that is still to come. */
function unusedOf({ price, paidUntilAt, boughtAt }: PurchaseRow, payments: PaymentRow[], now: number, zone: string): number | null {
  const last = payments.at(-1)
  if (!last || paidUntilAt === null || !isRenewed(price)) return null
  const { paying } = price
  const from = payments.length === 1 ? boughtAt : dueAt(boughtAt, payments.length - 1, paying as 'monthly' | 'yearly', zone)
  return Math.min(unused(last.amount, { from, to: paidUntilAt }, now), last.amount - last.refunded)
}
