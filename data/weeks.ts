/** How much happened with each thing of a kind, week by week: one statement a kind. */
import type { Instant, LocalDate } from '#core/time/zone'
import { WEEKS, type WeeklyKind } from '#core/views/weeks'
import type { Database } from './connection'
import { prepare } from './connection'

/** Where weeks begin, the oldest first; the last one ends with `to`, which counts, on the day `lastDay`. */
export interface WeekBounds { begin: readonly Instant[], to: Instant, firstDay: LocalDate, lastDay: LocalDate }

/** Each beginning of a week that is past counts one: the weeks are those of the calendar, however long its days are. */
const week = (at: string) => `${Array.from({ length: WEEKS - 1 }, (_, n) => `(${at} >= @begin${n + 1})`).join(' + ')} AS week`

/** `id`, `week` and `n`, from `@begin0` to `@to`. */
const SQL: Record<WeeklyKind, string> = {
  page: `SELECT page_id AS id, ${week('at')}, count(DISTINCT person_id) AS n FROM events
    WHERE kind = 'opted-in' AND page_id IS NOT NULL AND at >= @begin0 AND at <= @to GROUP BY 1, 2`,
  visit: `SELECT page_id AS id, CAST((julianday(day) - julianday(@firstDay)) / 7 AS INTEGER) AS week, sum(visits) AS n
    FROM page_visits WHERE day >= @firstDay AND day <= @lastDay GROUP BY 1, 2`,
  offer: `SELECT offer_id AS id, ${week('bought_at')}, count(*) AS n FROM purchases
    WHERE bought_at >= @begin0 AND bought_at <= @to GROUP BY 1, 2`,
  course: `SELECT owner_id AS id, ${week('handed_over_at')}, count(*) AS n FROM outbox
    WHERE kind = 'course' AND handed_over_at >= @begin0 AND handed_over_at <= @to GROUP BY 1, 2`,
  segment: `SELECT segment_id AS id, ${week('at')}, count(DISTINCT person_id) AS n FROM events
    WHERE kind = 'entered-segment' AND at >= @begin0 AND at <= @to GROUP BY 1, 2`,
  link: `SELECT k.link_id AS id, ${week('c.at')}, count(*) AS n FROM clicks c JOIN outbox o ON o.id = c.outbox_id
    JOIN message_links k ON k.message_id = o.message_id AND k.n = c.link_n
    WHERE c.judged = 'reader' AND c.at >= @begin0 AND c.at <= @to GROUP BY 1, 2`,
  rule: `SELECT rule_id AS id, ${week('at')}, count(*) AS n FROM rule_firings
    WHERE at >= @begin0 AND at <= @to GROUP BY 1, 2`,
}

/** Of every thing with anything in those weeks, so much in each. */
export function weeksOf(db: Database, kind: WeeklyKind, { begin, ...rest }: WeekBounds): Map<number, number[]> {
  const counts = new Map<number, number[]>()
  const begins = Object.fromEntries(begin.map((at, n) => [`begin${n}`, at]))
  for (const { id, week: nth, n } of prepare<{ id: number, week: number, n: number }>(db, SQL[kind]).all({ ...begins, ...rest })) {
    const own = counts.get(id) ?? Array<number>(WEEKS).fill(0)
    own[nth]! += n
    counts.set(id, own)
  }
  return counts
}
