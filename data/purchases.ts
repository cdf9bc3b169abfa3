/** Who went to pay, what was told of their orders, and what they bought. */
import type { Price } from '#core/offers/price'
import type { Taken } from '#core/offers/offer'
import type { PaymentFact } from '#core/offers/purchase'
import type { UnmatchedPaymentEvent } from '#core/views/offers'
import type { Instant } from '#core/time/zone'
import type { Database } from './connection'
import { prepare } from './connection'
import type { Due } from './dueKind'

export const PURCHASES_DUE: Due = { rows: 'purchases WHERE over_due_at IS NOT NULL', at: 'over_due_at' }
export const CHECKOUTS_DUE: Due = { rows: 'checkouts WHERE abandoned_due_at IS NOT NULL', at: 'abandoned_due_at' }

/** What is kept of a button pressed, until it is paid. */
export interface CheckoutAnswers { firstName: string, zone: string | null, ip: string | null, consent: string }

export interface CheckoutRow {
  id: number
  orderKey: string
  offerId: number
  offerVersionId: number
  personId: number
  couponId: number | null
  /** With the coupon: of the first payment or of all its parts. */
  firstPrice: Price
  /** Of each later payment; null where none is renewed. */
  laterPrice: Price | null
  touchId: number
  answers: CheckoutAnswers
  /** Where on the net it was begun, as a digest; null where nothing told. */
  origin: string | null
  startedAt: Instant
  keepsUntilAt: Instant
  /** When it counts as given up; null once it is bought or given up. */
  abandonedDueAt: Instant | null
  /** `replaced`: they pressed the button again, or have bought it by another press. */
  state: 'open' | 'bought' | 'abandoned' | 'replaced'
  eventId: number
}

type Raw<Row, Json extends keyof Row> = Omit<Row, Json> & Record<Json, string>
type RawCheckout = Raw<CheckoutRow, 'firstPrice' | 'answers'> & { laterPrice: string | null }
const CHECKOUT = `SELECT id, order_key AS orderKey, offer_id AS offerId, offer_version_id AS offerVersionId, person_id AS personId,
  coupon_id AS couponId, first_price AS firstPrice, later_price AS laterPrice,
  touch_id AS touchId, answers, origin, started_at AS startedAt, keeps_until_at AS keepsUntilAt, abandoned_due_at AS abandonedDueAt,
  state, event_id AS eventId FROM checkouts`
const priceOf = (text: string | null): Price | null => text === null ? null : JSON.parse(text) as Price
const parseCheckout = (row: RawCheckout): CheckoutRow => ({
  ...row, firstPrice: priceOf(row.firstPrice)!, laterPrice: priceOf(row.laterPrice), answers: JSON.parse(row.answers) as CheckoutAnswers,
})

export function insertCheckout(db: Database, row: Omit<CheckoutRow, 'id' | 'state'>): number {
  return Number(prepare(db, `
    INSERT INTO checkouts (order_key, offer_id, offer_version_id, person_id, coupon_id, first_price, later_price, touch_id, answers,
      origin, started_at,
      keeps_until_at, abandoned_due_at, state, event_id)
    VALUES (@orderKey, @offerId, @offerVersionId, @personId, @couponId, @firstPrice, @laterPrice, @touchId, @answers,
      @origin, @startedAt, @keepsUntilAt, @abandonedDueAt, 'open', @eventId)`).run({
    ...row, firstPrice: JSON.stringify(row.firstPrice), laterPrice: row.laterPrice && JSON.stringify(row.laterPrice),
    answers: JSON.stringify(row.answers),
  }).lastInsertRowid)
}

export function findCheckout(db: Database, orderKey: string): CheckoutRow | undefined {
  const row = prepare<RawCheckout>(db, `${CHECKOUT} WHERE order_key = ?`).get(orderKey)
  return row && parseCheckout(row)
}

export function endCheckout(db: Database, id: number, state: 'bought' | 'abandoned'): void {
  prepare(db, 'UPDATE checkouts SET state = ?, abandoned_due_at = NULL WHERE id = ?').run(state, id)
}

/** Other presses of theirs for the same offer are replaced by a newer one, or by one that is paid; what was kept for them is let go. */
export function replaceCheckouts(db: Database, { personId, offerId }: Pick<CheckoutRow, 'personId' | 'offerId'>, at: Instant): void {
  prepare(db, `
    UPDATE checkouts SET state = 'replaced', abandoned_due_at = NULL, keeps_until_at = min(keeps_until_at, ?) WHERE person_id = ?
    AND offer_id = ? AND state = 'open'`).run(at, personId, offerId)
}

export function checkoutsToAbandon(db: Database, at: Instant, limit: number): CheckoutRow[] {
  return prepare<RawCheckout>(db, `${CHECKOUT} WHERE abandoned_due_at <= ? ORDER BY abandoned_due_at, id LIMIT ?`).all(at, limit)
    .map(parseCheckout)
}

/** Of whom further payments are going to be asked. */
export function countOngoing(db: Database, offerId: number): number {
  return prepare<{ n: number }>(
    db, 'SELECT count(*) AS n FROM purchases WHERE offer_id = ? AND over_at IS NULL AND ended_at IS NULL AND paid_until_at IS NOT NULL'
  ).get(offerId)!.n
}

export function placesTaken(db: Database, offerId: number, now: Instant): Taken {
  return prepare<Taken>(db, `
    SELECT (SELECT count(*) FROM purchases WHERE offer_id = @offerId AND over_at IS NULL) AS sold,
      count(*) AS held, min(keeps_until_at) AS freeAt
    FROM checkouts WHERE offer_id = @offerId AND state <> 'bought' AND keeps_until_at > @now`).get({ offerId, now })!
}

/** Unpaid checkouts of an offer that hold something, begun from one place on the net by others than this person. */
export function heldFrom(db: Database, { offerId, origin, personId }: {
  offerId: number, origin: string, personId: number | null,
}, now: Instant): number {
  return prepare<number>(db, `
    SELECT count(*) FROM checkouts
    WHERE offer_id = @offerId AND state <> 'bought' AND keeps_until_at > @now AND origin = @origin AND person_id IS NOT @personId`)
    .pluck().get({ offerId, origin, personId, now }) as number
}

/** How often a coupon was used, or is kept for somebody who is just paying. */
export function couponUses(db: Database, couponId: number, now: Instant): number {
  return prepare<{ n: number }>(db, `SELECT (SELECT count(*) FROM purchases WHERE coupon_id = @couponId)
    + (SELECT count(*) FROM checkouts
      WHERE coupon_id = @couponId AND state <> 'bought' AND keeps_until_at > @now) AS n`).get({ couponId, now })!.n
}

/* What was told */

export const isKnownEvent = (db: Database, webhookId: string): boolean =>
  prepare(db, 'SELECT 1 FROM payment_events WHERE webhook_id = ?').get(webhookId) !== undefined

export function insertPaymentEvent(
  db: Database, row: { webhookId: string, orderKey: string, fact: PaymentFact, currency: string | null, cameAt: Instant },
): void {
  prepare(db, `
    INSERT INTO payment_events (webhook_id, order_key, fact, currency, came_at)
    VALUES (@webhookId, @orderKey, @fact, @currency, @cameAt)`).run({ ...row, fact: JSON.stringify(row.fact) })
  prepare(db, 'DELETE FROM unmatched_payment_events WHERE webhook_id = ?').run(row.webhookId)
}

/** Everything told of an order, in the order in which it came. */
export function paymentFactsOf(db: Database, orderKey: string): { fact: PaymentFact, currency: string | null }[] {
  return prepare<{ fact: string, currency: string | null }>(
    db, 'SELECT fact, currency FROM payment_events WHERE order_key = ? ORDER BY id',
  ).all(orderKey).map(row => ({ ...row, fact: JSON.parse(row.fact) as PaymentFact }))
}

export function insertUnmatchedPaymentEvent(
  db: Database, row: { webhookId: string, orderKey: string | null, problem: string, at: Instant },
): void {
  prepare(db, `INSERT INTO unmatched_payment_events (webhook_id, order_key, problem, first_at, last_at)
    VALUES (@webhookId, @orderKey, @problem, @at, @at)
    ON CONFLICT DO UPDATE SET order_key = excluded.order_key, problem = excluded.problem, last_at = excluded.last_at,
      times = times + 1`).run(row)
}

/** The latest first. */
export function unmatchedPaymentEvents(db: Database, limit: number): UnmatchedPaymentEvent[] {
  return prepare<UnmatchedPaymentEvent>(db, `
    SELECT webhook_id AS webhookId, order_key AS orderKey, problem, first_at AS firstAt, last_at AS lastAt, times
    FROM unmatched_payment_events ORDER BY last_at DESC, webhook_id LIMIT ?`).all(limit)
}

export function forgetInVain(db: Database, webhookId: string): boolean {
  return prepare(db, 'DELETE FROM unmatched_payment_events WHERE webhook_id = ?').run(webhookId).changes > 0
}

/* Purchases */

export interface PurchaseRow {
  id: number
  orderKey: string
  offerId: number
  offerVersionId: number | null
  checkoutId: number | null
  personId: number
  cameBy: 'checkout' | 'http' | 'csv'
  couponId: number | null
  touchId: number | null
  price: Price
  laterPrice: Price | null
  currency: string
  boughtAt: Instant
  toldAt: Instant
  paid: number
  refunded: number
  /** Payments that the buyer's bank asks back. */
  disputed: number
  refusedAt: Instant | null
  /** Since when no further payment is asked for. */
  endedAt: Instant | null
  paidUntilAt: Instant | null
  overDueAt: Instant | null
  overAt: Instant | null
  eventId: number
}

type RawPurchase = Raw<PurchaseRow, 'price'> & { laterPrice: string | null }
const PURCHASE = `SELECT id, order_key AS orderKey, offer_id AS offerId, offer_version_id AS offerVersionId, checkout_id AS checkoutId,
  person_id AS personId, came_by AS cameBy, coupon_id AS couponId,
  touch_id AS touchId, price, later_price AS laterPrice, currency, bought_at AS boughtAt, told_at AS toldAt, paid, refunded, disputed,
    refused_at AS refusedAt, ended_at AS endedAt,
  paid_until_at AS paidUntilAt, over_due_at AS overDueAt, over_at AS overAt, event_id AS eventId FROM purchases`
const parsePurchase = (row: RawPurchase): PurchaseRow => ({ ...row, price: priceOf(row.price)!, laterPrice: priceOf(row.laterPrice) })

/** Its number is free, and taken by {@link insertPurchase}: the event of buying names it. Only within one writing transaction. */
export const nextPurchaseId = (db: Database): number =>
  prepare<{ id: number }>(db, 'SELECT coalesce(max(id), 0) + 1 AS id FROM purchases').get()!.id

export function insertPurchase(db: Database, row: PurchaseRow): void {
  prepare(db, `INSERT INTO purchases (id, order_key, offer_id, offer_version_id, checkout_id, person_id, came_by, coupon_id, touch_id,
    price, later_price, currency, bought_at, told_at, paid, refunded, disputed, refused_at, ended_at,
      paid_until_at, over_due_at, over_at, event_id)
    VALUES (@id, @orderKey,
      @offerId, @offerVersionId, @checkoutId, @personId, @cameBy, @couponId, @touchId, @price, @laterPrice, @currency, @boughtAt, @toldAt,
        @paid, @refunded, @disputed, @refusedAt, @endedAt,
      @paidUntilAt, @overDueAt, @overAt,
        @eventId)`).run({ ...row, price: JSON.stringify(row.price), laterPrice: row.laterPrice && JSON.stringify(row.laterPrice) })
}

/** What more was told of it has changed this much. */
export function updatePurchase(db: Database, row: Pick<PurchaseRow, 'id' | 'boughtAt' | 'paid' | 'refunded' | 'disputed' | 'refusedAt'
  | 'endedAt' | 'paidUntilAt' | 'overDueAt' | 'overAt'>): void {
  prepare(db, `UPDATE purchases SET bought_at = @boughtAt, paid = @paid, refunded = @refunded, disputed = @disputed,
    refused_at = @refusedAt, ended_at = @endedAt,
    paid_until_at = @paidUntilAt, over_due_at = @overDueAt, over_at = @overAt WHERE id = @id`).run(row)
}

export function findPurchase(db: Database, id: number): PurchaseRow | undefined {
  const row = prepare<RawPurchase>(db, `${PURCHASE} WHERE id = ?`).get(id)
  return row && parsePurchase(row)
}

export function findPurchaseOfOrder(db: Database, orderKey: string): PurchaseRow | undefined {
  const row = prepare<RawPurchase>(db, `${PURCHASE} WHERE order_key = ?`).get(orderKey)
  return row && parsePurchase(row)
}

/** The latest first. */
export function purchasesOfPerson(db: Database, personId: number): PurchaseRow[] {
  return prepare<RawPurchase>(db, `${PURCHASE} WHERE person_id = ? ORDER BY bought_at DESC, id DESC`).all(personId).map(parsePurchase)
}

/** By number, after that one. */
export function purchasesAfter(db: Database, after: number, limit: number): PurchaseRow[] {
  return prepare<RawPurchase>(db, `${PURCHASE} WHERE id > ? ORDER BY id LIMIT ?`).all(after, limit).map(parsePurchase)
}

export function purchasesToEnd(db: Database, at: Instant, limit: number): PurchaseRow[] {
  return prepare<RawPurchase>(db, `${PURCHASE} WHERE over_due_at <= ? ORDER BY over_due_at, id LIMIT ?`).all(at, limit).map(parsePurchase)
}

/** Whether they have what this offer gives: bought, and neither given back nor ended. */
export const owns = (db: Database, personId: number, offerId: number): boolean => prepare(
  db, 'SELECT 1 FROM purchases WHERE person_id = ? AND offer_id = ? AND over_at IS NULL LIMIT 1',
).get(personId, offerId) !== undefined

export interface PaymentRow {
  id: number
  purchaseId: number
  ref: string
  at: Instant
  amount: number
  refunded: number
  disputed: 0 | 1
  /** The number of our receipt, year and number in it; null where somebody else gave one. */
  receiptYear: number | null
  receiptN: number | null
  eventId: number
}

const PAYMENT = `
  SELECT id, purchase_id AS purchaseId, ref, at, amount, refunded, disputed, receipt_year AS receiptYear, receipt_n AS receiptN,
    event_id AS eventId
  FROM payments`

/** In the order of their times. */
export const paymentsOfPurchase = (db: Database, purchaseId: number): PaymentRow[] =>
  prepare<PaymentRow>(db, `${PAYMENT} WHERE purchase_id = ? ORDER BY at, id`).all(purchaseId)

export const findPayment = (db: Database, id: number): PaymentRow | undefined => prepare<PaymentRow>(db, `${PAYMENT} WHERE id = ?`).get(id)

/** Gives the receipt the next free number of its year; none where `receiptYear` is null. */
export function insertPayment(db: Database, row: Omit<PaymentRow, 'id' | 'receiptN'>): number {
  return Number(prepare(db, `INSERT INTO payments (purchase_id, ref, at, amount, refunded, disputed, receipt_year, receipt_n, event_id)
    VALUES (@purchaseId, @ref,
      @at, @amount, @refunded, @disputed, @receiptYear, CASE WHEN @receiptYear IS NULL THEN NULL
        ELSE (SELECT coalesce(max(receipt_n), 0) + 1 FROM payments WHERE receipt_year = @receiptYear) END,
          @eventId)`).run(row).lastInsertRowid)
}

export function updatePayment(db: Database, id: number, { refunded, disputed }: Pick<PaymentRow, 'refunded' | 'disputed'>): void {
  prepare(db, 'UPDATE payments SET refunded = ?, disputed = ? WHERE id = ?').run(refunded, disputed, id)
}

/* Saying no more */

export function insertNoMore(db: Database, row: { offerId: number, personId: number, at: Instant, eventId: number }): void {
  prepare(db, 'INSERT OR IGNORE INTO said_no_more (offer_id, person_id, at, event_id) VALUES (@offerId, @personId, @at, @eventId)').run(row)
}

export const deleteNoMore = (db: Database, offerId: number, personId: number): boolean =>
  prepare(db, 'DELETE FROM said_no_more WHERE offer_id = ? AND person_id = ?').run(offerId, personId).changes > 0

export const saidNoMore = (db: Database, personId: number): { offerId: number, at: Instant }[] =>
  prepare<{ offerId: number, at: Instant }>(
    db, 'SELECT offer_id AS offerId, at FROM said_no_more WHERE person_id = ? ORDER BY offer_id',
  ).all(personId)
