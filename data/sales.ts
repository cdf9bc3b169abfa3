/** Sales counted and listed. */
import type { Money } from '#core/money/money'
import type { SaleState } from '#core/views/offers'
import type { SourceKey } from '#core/page/touch'
import type { Instant, LocalDate } from '#core/time/zone'
import { EMAIL_BEHIND } from './attribution'
import type { Database } from './connection'
import { prepare } from './connection'
import { SOURCE_KIND, SOURCE_WORD } from './costs'

/** Purchases that are not given back or over, and the money of all. */
export function salesOfOffers(db: Database): { offerId: number, sold: number, currency: string, amount: number }[] {
  return prepare<{ offerId: number, sold: number, currency: string, amount: number }>(db, `
    SELECT offer_id AS offerId, sum(over_at IS NULL) AS sold, currency, sum(paid - refunded) AS amount FROM purchases GROUP BY offer_id,
      currency ORDER BY offer_id, currency`).all()
}

export const offerVisits = (db: Database, offerId: number, first: LocalDate, last: LocalDate): number =>
  prepare<{ n: number }>(db, 'SELECT coalesce(sum(visits), 0) AS n FROM offer_visits WHERE offer_id = ? AND day BETWEEN ? AND ?').get(
    offerId, first, last,
  )!.n

/** What happened to purchases that began in the stretch, and to checkouts; `to` not included. */
export function countSales(
  db: Database, of: { offerId: number, from: Instant, to: Instant },
): Record<SaleState, number> & { people: number } {
  const bought = prepare<Record<Exclude<SaleState, 'began' | 'abandoned'>, number> & { people: number }>(db, `
    SELECT count(*) AS bought, count(DISTINCT person_id) AS people, coalesce(sum(over_at IS NULL), 0) AS owned,
      coalesce(sum(refunded > 0), 0) AS refunded, coalesce(sum(disputed > 0), 0) AS disputed,
      coalesce(sum(refused_at IS NOT NULL), 0) AS refused, coalesce(sum(over_at IS NOT NULL), 0) AS over
    FROM purchases WHERE offer_id = @offerId AND bought_at >= @from AND bought_at < @to`).get(of)!
  const went = prepare<{ began: number, abandoned: number }>(db, `
    SELECT count(*) AS began, coalesce(sum(state = 'abandoned'), 0) AS abandoned FROM checkouts WHERE offer_id = @offerId
      AND started_at >= @from AND started_at < @to AND state <> 'replaced'`).get(of)!
  return { ...bought, ...went }
}

/** Payments and what went back of them, by the time of paying. */
export function moneyOfSales(
  db: Database, of: { offerId: number, from: Instant, to: Instant },
): { currency: string, paid: number, refunded: number }[] {
  return prepare<{ currency: string, paid: number, refunded: number }>(db, `
    SELECT p.currency, sum(y.amount) AS paid, sum(y.refunded) AS refunded FROM payments y JOIN purchases p ON p.id = y.purchase_id
    WHERE p.offer_id = @offerId AND y.at >= @from AND y.at < @to GROUP BY p.currency ORDER BY p.currency`).all(of)
}

/** The email whose click was their last before buying, within so many milliseconds; `kind thing step`, or null. */
const EMAIL = `(SELECT o.kind || ' ' || o.owner_id || ' ' || o.item_id FROM outbox o WHERE o.id = ${EMAIL_BEHIND})`

export interface SaleFilter {
  offerId: number, from: Instant, to: Instant, clickMs: number, state: SaleState, couponId: number | null,
  sourceKind: SourceKey['kind'] | null, sourceWord: string | null, email: string | null,
}

export interface RawSale {
  orderKey: string
  purchaseId: number | null
  personId: number
  address: string
  firstName: string
  at: Instant
  currency: string
  paid: number
  refunded: number
  disputed: number
  refusedAt: Instant | null
  endedAt: Instant | null
  overAt: Instant | null
  paidUntilAt: Instant | null
  cameBy: 'checkout' | 'http' | 'csv'
  state: string
  couponCode: string | null
  couponId: number | null
  kind: SourceKey['kind'] | null
  word: string | null
  email: string | null
}

/** Purchases and open or given-up checkouts alike, the columns that each of them has. */
const SALES = `
  WITH sales AS (
    SELECT p.order_key AS orderKey, p.id AS purchaseId, p.person_id AS personId, p.bought_at AS at, p.currency, p.paid, p.refunded,
      p.disputed, p.refused_at AS refusedAt, p.ended_at AS endedAt, p.over_at AS overAt,
      p.paid_until_at AS paidUntilAt, p.came_by AS cameBy, 'bought' AS state, p.coupon_id AS couponId, p.touch_id AS touchId,
        ${EMAIL} AS email
    FROM purchases p WHERE @went = 0 AND p.offer_id = @offerId AND p.bought_at >= @from AND p.bought_at < @to
    UNION ALL
    SELECT c.order_key, NULL, c.person_id, c.started_at, json_extract(c.first_price, '$.currency'), json_extract(c.first_price, '$.amount'),
      0, 0, NULL, NULL, NULL, NULL, 'checkout', c.state, c.coupon_id, c.touch_id, NULL
    FROM checkouts c WHERE @went = 1 AND c.offer_id = @offerId AND c.started_at >= @from AND c.started_at < @to AND c.state <> 'replaced'
  ), shown AS (
    SELECT s.*, n.address, n.first_name AS firstName, u.code AS couponCode, CASE WHEN t.id IS NULL THEN NULL
      ELSE ${SOURCE_KIND} END AS kind, CASE WHEN t.id IS NULL THEN NULL ELSE ${SOURCE_WORD} END AS word
    FROM sales s JOIN people n ON n.id = s.personId LEFT JOIN coupons u ON u.id = s.couponId LEFT JOIN touches t ON t.id = s.touchId
    WHERE CASE @state WHEN 'owned' THEN s.overAt IS NULL WHEN 'refunded' THEN s.refunded > 0 WHEN 'disputed' THEN s.disputed > 0
    WHEN 'refused' THEN s.refusedAt IS NOT NULL
        WHEN 'over' THEN s.overAt IS NOT NULL WHEN 'abandoned' THEN s.state = 'abandoned' ELSE 1 END
      AND (@couponId IS NULL OR s.couponId = @couponId OR (@couponId = 0 AND s.couponId IS NULL))
        AND (@email IS NULL OR coalesce(s.email, 'none') = @email)
  )`
const OF_SOURCE = `(@sourceKind IS NULL OR (coalesce(kind, 'elsewhere') = @sourceKind AND coalesce(word, '') = @sourceWord))`

const bind = ({ state, ...filter }: SaleFilter) => ({ ...filter, state, went: state === 'began' || state === 'abandoned' ? 1 : 0 })

/** The latest first. */
export function listSales(db: Database, filter: SaleFilter, limit: number, offset: number): RawSale[] {
  return prepare<RawSale>(
    db, `${SALES} SELECT * FROM shown WHERE ${OF_SOURCE} ORDER BY at DESC, purchaseId DESC, personId DESC LIMIT @limit OFFSET @offset`,
  ).all({ ...bind(filter), limit, offset })
}

export const countListed = (db: Database, filter: SaleFilter): number =>
  prepare<{ n: number }>(db, `${SALES} SELECT count(*) AS n FROM shown WHERE ${OF_SOURCE}`).get(bind(filter))!.n

export interface PartOfSales extends Money { key: string, bought: number }

/** Purchases and money of a stretch by coupon, by source or by email, each currency apart. */
export function partsOfSales(
  db: Database, of: Pick<SaleFilter, 'offerId' | 'from' | 'to' | 'clickMs'>,
): Record<'coupon' | 'source' | 'email', PartOfSales[]> {
  const filter = bind({ ...of, state: 'bought', couponId: null, sourceKind: null, sourceWord: null, email: null })
  const parts = prepare<PartOfSales & { by: 'coupon' | 'source' | 'email' }>(db, `${SALES}, keyed AS (
      SELECT 'coupon' AS by, coalesce(couponId, 0) AS key, * FROM shown UNION ALL
      SELECT 'source', coalesce(kind, 'elsewhere') || ' ' || coalesce(word, ''), * FROM shown UNION ALL
      SELECT 'email', coalesce(email, 'none'), * FROM shown
    ) SELECT by, CAST(key AS TEXT) AS key, count(*) AS bought, currency, sum(paid - refunded) AS amount FROM keyed WHERE ${OF_SOURCE}
    GROUP BY by, key, currency`).all(filter)
  return {
    coupon: parts.filter(({ by }) => by === 'coupon'), source: parts.filter(({ by }) => by === 'source'),
    email: parts.filter(({ by }) => by === 'email'),
  }
}

/** How many purchases were made with a coupon. */
export const purchasesWith = (db: Database, couponId: number): number =>
  prepare<{ n: number }>(db, 'SELECT count(*) AS n FROM purchases WHERE coupon_id = ?').get(couponId)!.n

/** Currencies in which something was paid, the workspace's own first. */
export const currenciesPaid = (db: Database): string[] =>
  prepare<{ currency: string }>(db, `
    SELECT currency FROM workspace WHERE id = 1 UNION ALL SELECT *
    FROM (SELECT DISTINCT currency
      FROM purchases WHERE currency <> (SELECT currency FROM workspace WHERE id = 1) ORDER BY currency)`).all().map(row => row.currency)

/** Purchases that are theirs and that the bank asks back, or whose last payment was refused and which have not been ended; by offer. */
export function salesTrouble(db: Database): Record<'disputed' | 'refused', { offerId: number, name: string, n: number }[]> {
  const rows = (what: string) => prepare<{ offerId: number, name: string, n: number }>(db, `
    SELECT o.id AS offerId, o.name, count(*) AS n FROM purchases p JOIN offers o ON o.id = p.offer_id WHERE ${what} AND p.over_at IS NULL
      GROUP BY o.id ORDER BY o.id`).all()
  return { disputed: rows('p.disputed > 0'), refused: rows('p.refused_at IS NOT NULL AND p.ended_at IS NULL') }
}
