/** What was sold of an offer in a number of days, to whom, and what brought them. */
import { sayMoney, sumsOf } from '#core/money/money'
import { saySourceKey, type SourceKey } from '#core/page/touch'
import { rateOf } from '#core/stats/rate'
import { sayDay } from '#core/time/say'
import { addDays, DAY, instantOf, localOf, type ZoneName } from '#core/time/zone'
import type { SalesPart, SalesQuery, SalesView, SaleRow } from '#core/views/offers'
import { nameOfSend, sendOfKey } from '../inner/sendNames'
import { readTogether, type Database } from '#data/connection'
import { findCoupon, findOffer } from '#data/offers'
import { countListed, countSales, listSales, moneyOfSales, offerVisits, partsOfSales, type PartOfSales, type RawSale } from '#data/sales'
import { sellingOf } from '#data/selling'
import { workspaceOf } from '#data/workspace'
import type { WorkspaceContext } from '../context'
import { sourceNames } from '../inner/names'
import { NotThere } from '../problem'

const PAGE_SIZE = 25

export function offerSales(context: WorkspaceContext, query: SalesQuery): SalesView {
  const { db } = context
  return readTogether(db, () => {
    const offer = findOffer(db, query.id)
    if (!offer) throw new NotThere('This offer no longer exists.')
    const { zone } = workspaceOf(db)
    const { clickDays } = sellingOf(db)
    const last = localOf(context.clock.now(), zone).date
    const first = addDays(last, 1 - query.days)
    const stretch = {
      offerId: offer.id, from: instantOf(first, '00:00', zone), to: instantOf(addDays(last, 1), '00:00', zone), clickMs: clickDays * DAY,
    }
    const filter = {
      ...stretch, state: query.state, couponId: query.couponId, sourceKind: query.source?.kind ?? null,
      sourceWord: query.source?.word ?? null, email: query.email,
    }
    const { people, ...counts } = countSales(db, stretch)
    const money = moneyOfSales(db, stretch)
    const visits = offerVisits(db, offer.id, first, last)
    const parts = partsOfSales(db, stretch)
    const nameOf = sourceNames(db)
    return {
      id: offer.id, name: offer.name, days: query.days, from: stretch.from, to: stretch.to, clickDays, visits, began: counts.began, counts,
      // Who was told of from elsewhere never saw the page.
      rate: rateOf(people <= visits ? people : 0, people <= visits ? visits : 0),
      paid: money.map(({ currency, paid }) => ({ currency, amount: paid })), refunded: money.filter(({ refunded }) => refunded > 0)
        .map(({ currency, refunded }) => ({ currency, amount: refunded })),
      byCoupon: gathered(parts.coupon, key =>
        key === '0' ? 'without a coupon' : findCoupon(db, Number(key))?.code ?? 'a deleted coupon'),
      bySource: gathered(parts.source, key => saySource(key, nameOf)),
      byEmail: gathered(parts.email, key => sayEmail(db, key)),
      rows: listSales(db, filter, PAGE_SIZE, query.page * PAGE_SIZE).map(row => rowOf(db, row, nameOf, zone)), rowCount: countListed(
        db, filter,
      ), pageSize: PAGE_SIZE,
    }
  })
}

/** One line for each key, the most bought first: amounts in different currencies could not be set in an order. */
function gathered(parts: PartOfSales[], say: (key: string) => string): SalesPart[] {
  return [...new Set(parts.map(({ key }) => key))].map((key) => {
    const own = parts.filter(part => part.key === key)
    return { key, says: say(key), bought: own.reduce((sum, { bought }) => sum + bought, 0), money: sumsOf(own) }
  }).sort((one, other) => other.bought - one.bought || (one.says < other.says ? -1 : 1))
}

function saySource(key: string, nameOf: (slug: string) => string | undefined): string {
  const [kind = '', ...words] = key.split(' ')
  return kind === 'elsewhere' ? 'sold elsewhere' : saySourceKey({ kind: kind as SourceKey['kind'], word: words.join(' ') }, nameOf)
}

function nameInResults(db: Database, key: string): string {
  const { of, title } = nameOfSend(db, sendOfKey(key))
  return `${of}: ${title}`
}

const sayEmail = (db: Database, key: string): string => key === 'none' ? 'no click in an email before' : nameInResults(db, key)

function rowOf(db: Database, row: RawSale, nameOf: (slug: string) => string | undefined, zone: ZoneName): SaleRow {
  return {
    purchaseId: row.purchaseId, personId: row.personId, person: row.firstName || row.address || 'someone who was erased', at: row.at,
    amount: { amount: row.paid - row.refunded, currency: row.currency }, says: howItStands(row, zone),
    couponCode: row.couponCode, source: saySource(row.kind === null ? 'elsewhere' : `${row.kind} ${row.word}`, nameOf),
    email: row.email === null ? null : sayEmail(db, row.email),
  }
}

export function howItStands(row: RawSale, zone: ZoneName): string {
  if (row.purchaseId === null) {
    return { open: 'is paying, or has not paid yet', abandoned: 'abandoned the checkout', bought: 'paid' }[row.state] ?? row.state
  }
  if (row.refunded > 0 && row.refunded === row.paid) return 'fully refunded'
  if (row.overAt !== null) return `ended ${sayDay(row.overAt, zone)}`
  return [
    row.disputed > 0 && 'disputed with the bank', row.refusedAt !== null && 'last payment refused',
    row.refunded > 0 && `${sayMoney({ amount: row.refunded, currency: row.currency })} went back`,
    row.endedAt !== null && row.paidUntilAt !== null
      ? `ends ${sayDay(row.paidUntilAt, zone)}`
      : row.paidUntilAt !== null && `next payment ${sayDay(row.paidUntilAt, zone)}`, row.cameBy !== 'checkout' && 'sold elsewhere',
  ].filter(Boolean).join(', ') || 'is theirs'
}
