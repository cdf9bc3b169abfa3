/** A buyer's own page: what they have, its files and receipts, and ending it. */
import { onDay, type OwnedView } from '#core/offers/render'
import { sayReceiptNumber, type Receipt } from '#core/offers/receipt'
import { sayPrice } from '#core/offers/say'
import { isRenewed } from '#core/offers/price'
import { sayMoney } from '#core/money/money'
import { sayDay } from '#core/time/say'
import type { ZoneName } from '#core/time/zone'
import type { FileView } from '#core/views/pages'
import { readTogether, type Database } from '#data/connection'
import { contentOfFile, findFile } from '#data/files'
import { findOffer } from '#data/offers'
import { findPerson } from '#data/people'
import { findPayment, findPurchase, paymentsOfPurchase, purchasesOfPerson, type PaymentRow, type PurchaseRow } from '#data/purchases'
import { workspaceOf } from '#data/workspace'
import type { WorkspaceContext } from '../context'
import { receiptOf } from '../inner/receipts'
import { contentOfPurchase } from '../inner/purchased'
import { NotNow, NotThere } from '../problem'
import { endPurchase } from './end'

/** Whose page a signed address opens. Throws {@link NotThere} for what is not ours, and once they were erased. */
function buyerOf({ db, signer }: WorkspaceContext, token: string): { personId: number, firstName: string } {
  const what = signer.read('buyer', token)
  const purchase = what === null ? undefined : findPurchase(db, Number(what))
  const person = purchase && findPerson(db, purchase.personId)
  if (!person) throw new NotThere('This link is not complete. Please use the button in your receipt.')
  return { personId: person.id, firstName: person.firstName }
}

/** `at`: the path of their page, without a slash at the end. */
export function buyerView(context: WorkspaceContext, token: string, at: string): { name: string, owned: OwnedView[] } {
  const { db } = context
  return readTogether(db, () => {
    const { personId, firstName } = buyerOf(context, token)
    const { zone } = workspaceOf(db)
    return { name: firstName, owned: purchasesOfPerson(db, personId).map(purchase => ownedView(db, purchase, zone, at)) }
  })
}

function ownedView(db: Database, purchase: PurchaseRow, zone: ZoneName, at: string): OwnedView {
  const { gives } = contentOfPurchase(db, purchase)
  const file = gives.fileId === null || purchase.overAt !== null ? undefined : findFile(db, gives.fileId)
  // Who pays in parts has bought the whole: only the seller can let them off.
  const canEnd = isRenewed(purchase.price) && purchase.overAt === null && purchase.endedAt === null && purchase.paidUntilAt !== null
  return {
    title: findOffer(db, purchase.offerId)!.name, isOver: purchase.overAt !== null, says: saidToBuyer(purchase, zone),
    file: file ? { url: `${at}/file/${purchase.id}`, name: file.name } : null,
    receipts: paymentsOfPurchase(db, purchase.id).map(payment => ({
      url: `${at}/receipt/${payment.id}`, words: sayPayment(payment, purchase.currency, zone),
    })),
    end: canEnd ? {
      action: `${at}/end/${purchase.id}`,
      words: `No further payment is taken. What you have paid for stays yours until ${onDay(purchase.paidUntilAt!, zone).slice(3)}.`,
    } : null,
  }
}

function sayPayment({ receiptYear, receiptN, at, amount, refunded }: PaymentRow, currency: string, zone: ZoneName): string {
  const what = receiptYear === null ? 'Payment' : `Receipt ${sayReceiptNumber(receiptYear, receiptN!)},`
  const back = refunded > 0 ? `, of which ${sayMoney({ amount: refunded, currency })} went back` : ''
  return `${what} ${sayDay(at, zone, true)}: ${sayMoney({ amount, currency })}${back}`
}

/** How a purchase stands, a sentence each; to its buyer, or to the owner about them. */
export function saidToBuyer(
  { price, laterPrice, currency, boughtAt, paidUntilAt, endedAt, overAt, refusedAt, refunded, paid }: PurchaseRow, zone: ZoneName,
  who: 'you' | 'them' = 'you',
): string[] {
  const bought = `Bought ${onDay(boughtAt, zone)} for ${sayPrice(price)}.`
  if (overAt !== null) return [bought, refunded > 0 && refunded === paid
    ? `All of it, ${sayMoney({ amount: refunded, currency })}, went back to ${who}: it is no longer ${who === 'you' ? 'yours' : 'theirs'}.`
    : `It ended ${onDay(overAt, zone)}.`]
  const back = refunded > 0 ? [`${sayMoney({ amount: refunded, currency })} went back to ${who}.`] : []
  const refused = refusedAt === null ? [] : [`A payment was refused ${onDay(refusedAt, zone)}.`]
  if (paidUntilAt === null) return [bought, ...back, ...refused]
  const next = endedAt !== null
    ? `Ended: it stays ${who === 'you' ? 'yours' : 'theirs'} until ${onDay(paidUntilAt, zone).slice(3)}.`
    : laterPrice
      ? `It renews ${onDay(paidUntilAt, zone)} for ${sayMoney(laterPrice)}.`
      : `The next payment is due ${onDay(paidUntilAt, zone)}.`
  return [bought, ...back, ...refused, next]
}

/** One of theirs, or {@link NotThere}. */
function theirs(context: WorkspaceContext, token: string, purchaseId: number): PurchaseRow {
  const { personId } = buyerOf(context, token)
  const purchase = findPurchase(context.db, purchaseId)
  if (purchase?.personId !== personId) throw new NotThere('There is nothing at this address.')
  return purchase
}

export function buyersFile(context: WorkspaceContext, token: string, purchaseId: number): FileView & { content: Uint8Array } {
  const purchase = theirs(context, token, purchaseId)
  const { fileId } = contentOfPurchase(context.db, purchase).gives
  const file = fileId === null || purchase.overAt !== null ? undefined : findFile(context.db, fileId)
  if (!file) throw new NotThere('There is no file here, or you no longer have access.')
  return { ...file, content: contentOfFile(context.db, file.id) }
}

export function buyersReceipt(context: WorkspaceContext, token: string, paymentId: number): Receipt {
  const payment = findPayment(context.db, paymentId)
  if (!payment) throw new NotThere('There is no receipt here.')
  theirs(context, token, payment.purchaseId)
  return receiptOf(context.db, paymentId)
}

export async function buyerEnds(context: WorkspaceContext, token: string, purchaseId: number): Promise<void> {
  const purchase = theirs(context, token, purchaseId)
  if (!isRenewed(purchase.price)) throw new NotNow('Only payments that renew can be cancelled here.')
  await endPurchase(context, purchase.id)
}
