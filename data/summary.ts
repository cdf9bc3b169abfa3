/** The owner's weekly summary: when it is wanted, and what only it asks of the tables. */
import type { SummaryRule } from '#core/summary/rule'
import type { Instant } from '#core/time/zone'
import type { Database } from './connection'
import { prepare } from './connection'
import type { Due } from './dueKind'

export const SUMMARIES_DUE: Due = { rows: 'weekly_summary WHERE next_at IS NOT NULL', at: 'next_at' }

export function summaryRule(db: Database): SummaryRule {
  const { is_on: on, weekday, time } = prepare<{ is_on: 0 | 1 } & Omit<SummaryRule, 'on'>>(
    db, 'SELECT is_on, weekday, time FROM weekly_summary WHERE id = 1',
  ).get()!
  return { on: on === 1, weekday, time }
}

export function setSummaryRule(db: Database, { on, weekday, time }: SummaryRule, nextAt: Instant | null): void {
  prepare(db, 'UPDATE weekly_summary SET is_on = ?, weekday = ?, time = ?, next_at = ? WHERE id = 1').run(
    on ? 1 : 0, weekday, time, nextAt,
  )
}

export const nextSummary = (db: Database): Instant | null =>
  prepare<{ at: Instant | null }>(db, 'SELECT next_at AS at FROM weekly_summary WHERE id = 1').get()!.at

/** How many joined and finished each course after `from` and up to `to`; those with none are left out, most joined first. */
export function courseTraffic(db: Database, from: Instant, to: Instant): { id: number, name: string, joined: number, finished: number }[] {
  return prepare<{ id: number, name: string, joined: number, finished: number }>(db, `
    SELECT c.id, c.name, count(*) FILTER (WHERE e.joined_at > @from AND e.joined_at <= @to) AS joined,
      count(*) FILTER (WHERE e.status = 'finished' AND e.ended_at > @from AND e.ended_at <= @to) AS finished
    FROM enrolments e JOIN courses c ON c.id = e.course_id
    WHERE c.gone_at IS NULL AND (e.joined_at > @from AND e.joined_at <= @to OR e.ended_at > @from AND e.ended_at <= @to)
    GROUP BY c.id HAVING joined + finished > 0 ORDER BY joined DESC, finished DESC, c.id`).all({ from, to })
}

/** Payments after `from` and up to `to`, less what was refunded of them, for each currency. */
export function paidBetween(db: Database, from: Instant, to: Instant): { currency: string, count: number, amount: number }[] {
  return prepare<{ currency: string, count: number, amount: number }>(db, `
    SELECT u.currency, count(*) AS count, sum(p.amount - p.refunded) AS amount
    FROM payments p JOIN purchases u ON u.id = p.purchase_id WHERE p.at > ? AND p.at <= ? GROUP BY 1 ORDER BY 1`).all(from, to)
}
