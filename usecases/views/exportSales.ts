/** Every purchase of an offer as CSV: open, and readable by whoever keeps the books. */
import { csvLines } from '#core/exchange/csv'
import { writeMoney } from '#core/money/money'
import { sayIso } from '#core/time/say'
import { DAY } from '#core/time/zone'
import { readTogether } from '#data/connection'
import { findOffer } from '#data/offers'
import { listSales } from '#data/sales'
import { sellingOf } from '#data/selling'
import { workspaceOf } from '#data/workspace'
import type { WorkspaceContext } from '../context'
import { NotThere } from '../problem'
import { howItStands } from './offerSales'

/** More than anybody sells: a bound, so that no file is without one. */
const MOST = 1_000_000

/** The latest first; instants as ISO 8601 in UTC, amounts with the point of their currency. */
export function salesCsv({ db }: WorkspaceContext, offerId: number): string {
  return readTogether(db, () => {
    const offer = findOffer(db, offerId)
    if (!offer) throw new NotThere('This offer no longer exists.')
    const { zone } = workspaceOf(db)
    const all = {
      offerId, from: 0, to: Number.MAX_SAFE_INTEGER, clickMs: sellingOf(db).clickDays * DAY, state: 'bought' as const, couponId: null,
      sourceKind: null, sourceWord: null, email: null,
    }
    return csvLines([
      ['order', 'email', 'first name', 'offer', 'amount', 'currency', 'went back', 'date', 'coupon', 'status'],
      ...listSales(db, all, MOST, 0).map(row => [
        row.orderKey, row.address, row.firstName, offer.name, writeMoney({ amount: row.paid, currency: row.currency }), row.currency,
        writeMoney({
          amount: row.refunded, currency: row.currency,
        }), sayIso(row.at), row.couponCode ?? '', howItStands({ ...row, cameBy: 'checkout' }, zone),
      ]),
    ])
  })
}
