/** Money spent on sources, and whom each source brought. */
import type { Money } from '#core/money/money'
import type { SourceKey } from '#core/page/touch'
import type { Instant, LocalDate } from '#core/time/zone'
import type { Database } from './connection'
import { prepare } from './connection'

export interface CostRow extends SourceKey, Money {
  /** `2026-11`, of the workspace's zone. */
  month: string
}

/** In the order of their months. */
export function allCosts(db: Database): CostRow[] {
  return prepare<CostRow>(db, 'SELECT kind, word, month, amount, currency FROM source_costs ORDER BY month, kind, word').all()
}

export function costsOf(db: Database, { kind, word }: SourceKey): CostRow[] {
  return prepare<CostRow>(
    db, 'SELECT kind, word, month, amount, currency FROM source_costs WHERE kind = ? AND word = ? ORDER BY month',
  ).all(kind, word)
}

export function setCost(db: Database, row: CostRow, at: Instant): void {
  prepare(db, `INSERT INTO source_costs (kind, word, month, amount, currency, changed_at) VALUES (?, ?, ?, ?, ?, ?)
    ON CONFLICT DO UPDATE SET amount = excluded.amount, currency = excluded.currency,
      changed_at = excluded.changed_at`).run(row.kind, row.word, row.month, row.amount, row.currency, at)
}

export function removeCost(db: Database, { kind, word }: SourceKey, month: string): void {
  prepare(db, 'DELETE FROM source_costs WHERE kind = ? AND word = ? AND month = ?').run(kind, word, month)
}

/** What a touch comes down to, as `sourceOf` has it. */
export const SOURCE_KIND =
  `CASE WHEN t.named <> '' THEN 'named' WHEN t.source <> '' THEN 'utm' WHEN t.referrer <> '' THEN 'site' ELSE 'untold' END`
export const SOURCE_WORD = `CASE WHEN t.named <> '' THEN t.named WHEN t.source <> '' THEN t.source ELSE t.referrer END`

export interface VisitsOfSource extends SourceKey { visits: number }

/** Showings of all pages from one day to another, both included. */
export function visitsBySource(db: Database, first: LocalDate, last: LocalDate): VisitsOfSource[] {
  return prepare<VisitsOfSource>(db, `
    SELECT ${SOURCE_KIND} AS kind, ${SOURCE_WORD} AS word, sum(v.visits) AS visits FROM page_visits v
    JOIN touches t ON t.id = v.touch_id WHERE v.day BETWEEN ? AND ? GROUP BY 1, 2`).all(first, last)
}

export interface PeopleOfSource extends SourceKey { subscribers: number, reading: number }

/**
 * Who came by a page in a stretch of time (`to` not included) and said yes
 * where they were asked, by what brought them first; of them, who is active
 * and has opened or clicked something since `readSince`.
 */
export function peopleBySource(db: Database, from: Instant, to: Instant, readSince: Instant): PeopleOfSource[] {
  return prepare<PeopleOfSource>(db, `
    SELECT ${SOURCE_KIND} AS kind, ${SOURCE_WORD} AS word, count(*) AS subscribers,
      count(CASE WHEN p.status = 'active' AND p.read_at >= @readSince THEN 1 END) AS reading
    FROM people p JOIN touches t ON t.id = p.first_touch_id
    WHERE p.gone IS NULL AND p.created_at >= @from AND p.created_at < @to AND p.status <> 'pending' AND p.source LIKE 'page:%' GROUP BY 1,
      2`).all({ from, to, readSince })
}
