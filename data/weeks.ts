/** How much happened with each thing of a kind, week by week: one statement a kind. */
import type { Instant } from '#core/time/zone'
import { WEEK_MS, WEEKS, type WeeklyKind } from '#core/views/weeks'
import type { Database } from './connection'
import { prepare } from './connection'

const week = (at: string) => `CAST((${at} - @from) / ${WEEK_MS} AS INTEGER) AS week`

/** `id`, `week` and `n`, from `@from` on; the first instant does not count, the last one does. */
const SQL: Record<WeeklyKind, string> = {
  page: `SELECT page_id AS id, ${week('at')}, count(DISTINCT person_id) AS n FROM events
    WHERE kind = 'opted-in' AND page_id IS NOT NULL AND at > @from AND at <= @to GROUP BY 1, 2`,
  offer: `SELECT offer_id AS id, ${week('bought_at')}, count(*) AS n FROM purchases WHERE bought_at > @from AND bought_at <= @to GROUP BY 1, 2`,
  course: `SELECT owner_id AS id, ${week('handed_over_at')}, count(*) AS n FROM outbox
    WHERE kind = 'course' AND handed_over_at > @from AND handed_over_at <= @to GROUP BY 1, 2`,
  segment: `SELECT segment_id AS id, ${week('at')}, count(DISTINCT person_id) AS n FROM events
    WHERE kind = 'entered-segment' AND at > @from AND at <= @to GROUP BY 1, 2`,
  link: `SELECT k.link_id AS id, ${week('c.at')}, count(*) AS n FROM clicks c JOIN outbox o ON o.id = c.outbox_id
    JOIN message_links k ON k.message_id = o.message_id AND k.n = c.link_n
    WHERE c.judged = 'reader' AND c.at > @from AND c.at <= @to GROUP BY 1, 2`,
  rule: `SELECT rule_id AS id, ${week('at')}, count(*) AS n FROM rule_firings WHERE at > @from AND at <= @to GROUP BY 1, 2`,
}

/** Of every thing with anything in those weeks, so much in each. */
export function weeksOf(db: Database, kind: WeeklyKind, now: Instant): Map<number, number[]> {
  const counts = new Map<number, number[]>()
  const rows = prepare<{ id: number, week: number, n: number }>(db, SQL[kind]).all({ from: now - WEEKS * WEEK_MS, to: now })
  for (const { id, week: nth, n } of rows) {
    const own = counts.get(id) ?? Array<number>(WEEKS).fill(0)
    // The very end of the last week would begin another.
    own[Math.min(nth, WEEKS - 1)]! += n
    counts.set(id, own)
  }
  return counts
}
