/** The books of the payment stand-in. Only in practice. */
import type { Instant } from '#core/time/zone'
import type { Database } from './connection'
import { prepare } from './connection'
import type { Due } from './dueKind'

export const PAYMENTS_DUE: Due = {
  rows: `(SELECT next_at AS at FROM practice_orders WHERE next_at IS NOT NULL UNION ALL SELECT dispute_at FROM practice_orders
    WHERE dispute_at IS NOT NULL) WHERE 1`,
  at: 'at',
}

/** A page of them; what stands in it is the stand-in's own. */
export interface PracticeOrderRow {
  orderKey: string, given: string, card: string | null, payments: number, givenBack: string, firstPaidAt: Instant | null,
  nextAt: Instant | null, disputeAt: Instant | null, endedAt: Instant | null,
}

const PAGE = `
  SELECT order_key AS orderKey, order_given AS given, card, payments, given_back AS givenBack, first_paid_at AS firstPaidAt,
    next_at AS nextAt, dispute_at AS disputeAt, ended_at AS endedAt
  FROM practice_orders`

export const findPracticeOrder = (db: Database, orderKey: string): PracticeOrderRow | undefined =>
  prepare<PracticeOrderRow>(db, `${PAGE} WHERE order_key = ?`).get(orderKey)

export function keepPracticeOrder(db: Database, row: PracticeOrderRow): void {
  prepare(db, `INSERT INTO practice_orders (order_key, order_given, card, payments, given_back, first_paid_at, next_at, dispute_at,
    ended_at)
    VALUES (@orderKey, @given, @card, @payments, @givenBack, @firstPaidAt, @nextAt, @disputeAt, @endedAt)
    ON CONFLICT DO UPDATE SET card = @card, payments = @payments, given_back = @givenBack, first_paid_at = @firstPaidAt, next_at = @nextAt,
      dispute_at = @disputeAt, ended_at = @endedAt`).run(row)
}

/** The earliest first; those of one instant by their keys. */
export function duePracticeOrders(db: Database, at: Instant): PracticeOrderRow[] {
  return prepare<PracticeOrderRow>(
    db,
    `${PAGE} WHERE next_at <= @at OR dispute_at <= @at ORDER BY min(coalesce(next_at, dispute_at), coalesce(dispute_at, next_at)),
      order_key`,
  ).all({ at })
}
