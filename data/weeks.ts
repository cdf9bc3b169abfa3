/** How much happened with each thing of a kind, week by week: one statement a kind. */
import type { Instant, LocalDate } from '#core/time/zone'
import type { WeeklyKind } from '#core/views/weeks'
import type { Database } from './connection'

/** Where weeks begin, the oldest first; the last one ends with `to`, which counts, on the day `lastDay`. */
export interface WeekBounds { begin: readonly Instant[], to: Instant, firstDay: LocalDate, lastDay: LocalDate }

/** Each beginning of a week that is past counts one: the weeks are those of the calendar, however long its days are. */
const week = (at: string, { begin }: WeekBounds) => `${begin.slice(1).map(start => `(${at} >= ${start})`).join(' + ')} AS week`

/** `id`, `week` and `n`, from `@from` to `@to`. */
const SQL: Record<WeeklyKind, (bounds: WeekBounds) => string> = {
  page: bounds => `SELECT page_id AS id, ${week('at', bounds)}, count(DISTINCT person_id) AS n FROM events
    WHERE kind = 'opted-in' AND page_id IS NOT NULL AND at >= @from AND at <= @to GROUP BY 1, 2`,
  visit: () => `SELECT page_id AS id, CAST((julianday(day) - julianday(@firstDay)) / 7 AS INTEGER) AS week, sum(visits) AS n FROM page_visits
    WHERE day >= @firstDay AND day <= @lastDay GROUP BY 1, 2`,
  offer: bounds => `SELECT offer_id AS id, ${week('bought_at', bounds)}, count(*) AS n FROM purchases
    WHERE bought_at >= @from AND bought_at <= @to GROUP BY 1, 2`,
  course: bounds => `SELECT owner_id AS id, ${week('handed_over_at', bounds)}, count(*) AS n FROM outbox
    WHERE kind = 'course' AND handed_over_at >= @from AND handed_over_at <= @to GROUP BY 1, 2`,
  segment: bounds => `SELECT segment_id AS id, ${week('at', bounds)}, count(DISTINCT person_id) AS n FROM events
    WHERE kind = 'entered-segment' AND at >= @from AND at <= @to GROUP BY 1, 2`,
  link: bounds => `SELECT k.link_id AS id, ${week('c.at', bounds)}, count(*) AS n FROM clicks c JOIN outbox o ON o.id = c.outbox_id
    JOIN message_links k ON k.message_id = o.message_id AND k.n = c.link_n
    WHERE c.judged = 'reader' AND c.at >= @from AND c.at <= @to GROUP BY 1, 2`,
  rule: bounds => `SELECT rule_id AS id, ${week('at', bounds)}, count(*) AS n FROM rule_firings WHERE at >= @from AND at <= @to GROUP BY 1, 2`,
}

/** Of every thing with anything in those weeks, so much in each. */
export function weeksOf(db: Database, kind: WeeklyKind, bounds: WeekBounds): Map<number, number[]> {
  const counts = new Map<number, number[]>()
  const { begin, to, firstDay, lastDay } = bounds
  // Its bounds stand in the statement: no two days have the same one, so it is not kept.
  const rows = db.prepare<[object], { id: number, week: number, n: number }>(SQL[kind](bounds))
    .all({ from: begin[0], to, firstDay, lastDay })
  for (const { id, week: nth, n } of rows) {
    const own = counts.get(id) ?? Array<number>(begin.length).fill(0)
    own[nth]! += n
    counts.set(id, own)
  }
  return counts
}
