/** What somebody bought, for the owner. */
import { sayReceiptNumber } from '#core/offers/receipt'
import { dueAt, isRenewed } from '#core/offers/price'
import { unused } from '#core/offers/refund'
import type { PurchaseOfPerson } from '#core/views/offers'
import { findCoupon, findOffer } from '#data/offers'
import { findPurchaseOfOrder, paymentsOfPurchase, purchasesOfPerson, type PaymentRow, type PurchaseRow } from '#data/purchases'
import { workspaceOf } from '#data/workspace'
import type { WorkspaceContext } from '../context'
import { buyerUrl } from '../inner/receipts'
import { saidToBuyer } from '../offers/buyer'
import { NotThere } from '../problem'

/** The latest first. */
export function purchasesView(context: WorkspaceContext, personId: number): PurchaseOfPerson[] {
  const { db } = context
  const { zone } = workspaceOf(db)
  return purchasesOfPerson(db, personId).map(purchase => purchaseView(context, purchase, zone))
}

/** By the key of its order. */
export function purchaseOfOrder(context: WorkspaceContext, order: string): PurchaseOfPerson {
  const purchase = findPurchaseOfOrder(context.db, order)
  if (!purchase) throw new NotThere('Nothing was bought with this order.')
  return purchaseView(context, purchase, workspaceOf(context.db).zone)
}

function purchaseView(context: WorkspaceContext, purchase: PurchaseRow, zone: string): PurchaseOfPerson {
  const { db } = context
  const payments = paymentsOfPurchase(db, purchase.id)
  return {
    id: purchase.id, offerId: purchase.offerId, offerName: findOffer(db, purchase.offerId)!.name, currency: purchase.currency,
    boughtAt: purchase.boughtAt, cameBy: purchase.cameBy,
    says: [...saidToBuyer(purchase, zone, 'them'), ...purchase.disputed > 0 ? ['They disputed it with their bank.'] : []],
    isOver: purchase.overAt !== null, couponCode: purchase.couponId === null ? null : findCoupon(db, purchase.couponId)?.code ?? null,
    payments: payments.map(({ id, at, amount, refunded, disputed, receiptYear, receiptN }) => ({
      id, at, amount, refunded, disputed: disputed === 1, receipt: receiptYear === null ? null : sayReceiptNumber(receiptYear, receiptN!),
    })),
    canEnd: purchase.overAt === null && purchase.endedAt === null && purchase.paidUntilAt !== null,
    buyerUrl: buyerUrl(context, purchase.id), unused: unusedOf(purchase, payments, context.clock.now(), zone),
  }
}

/** Of the last payment of what is renewed: the share of its stretch that is still to come. */
function unusedOf({ price, paidUntilAt, boughtAt }: PurchaseRow, payments: PaymentRow[], now: number, zone: string): number | null {
  const last = payments.at(-1)
  if (!last || paidUntilAt === null || !isRenewed(price)) return null
  const { paying } = price
  // A payment that went back as a whole pays for no stretch.
  const stretches = payments.filter(({ amount, refunded }) => amount === 0 || refunded < amount).length
  if (stretches === 0) return null
  const from = dueAt(boughtAt, stretches - 1, paying as 'monthly' | 'yearly', zone)
  return Math.min(unused(last.amount, { from, to: paidUntilAt }, now), last.amount - last.refunded)
}
