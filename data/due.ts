/** What is due next, over everything that waits for a time. */
import type { Instant } from '#core/time/zone'
import type { Database } from './connection'
import { q } from './connection'

/** In the order in which things due at the same instant are done. */
export const DUE_KINDS = ['payment', 'purchase', 'checkout', 'opening', 'pause', 'coming', 'step', 'asking', 'click', 'watch', 'expiry', 'notice', 'email', 'call', 'reader', 'link', 'look', 'turn'] as const
export type DueKind = typeof DUE_KINDS[number]

const EARLIEST: Record<DueKind, string> = {
  payment: 'SELECT min(at) AS at FROM (SELECT min(next_at) AS at FROM practice_orders WHERE next_at IS NOT NULL UNION ALL SELECT min(dispute_at) FROM practice_orders WHERE dispute_at IS NOT NULL)',
  purchase: 'SELECT min(over_due_at) AS at FROM purchases WHERE over_due_at IS NOT NULL',
  checkout: 'SELECT min(abandoned_due_at) AS at FROM checkouts WHERE abandoned_due_at IS NOT NULL',
  opening: 'SELECT min(opening_due_at) AS at FROM offers WHERE opening_due_at IS NOT NULL',
  coming: 'SELECT min(due_at) AS at FROM comings_in WHERE waits = 0',
  step: 'SELECT min(due_at) AS at FROM enrolments WHERE due_at IS NOT NULL',
  pause: 'SELECT min(paused_until_at) AS at FROM people WHERE paused_until_at IS NOT NULL',
  asking: 'SELECT min(next_at) AS at FROM confirmations WHERE next_at IS NOT NULL',
  click: 'SELECT min(settle_at) AS at FROM clicks WHERE judged IS NULL',
  watch: 'SELECT min(due_at) AS at FROM watches WHERE done_at IS NULL',
  expiry: 'SELECT min(expires_at) AS at FROM tag_holdings WHERE expires_at IS NOT NULL',
  email: `SELECT min(go_at) AS at FROM outbox WHERE status IN ('queued', 'failed') AND go_at IS NOT NULL`,
  notice: 'SELECT min(mail_due_at) AS at FROM notices WHERE mail_due_at IS NOT NULL',
  reader: 'SELECT min(due_at) AS at FROM reader_acts WHERE done_at IS NULL',
  call: 'SELECT min(next_at) AS at FROM hook_deliveries WHERE next_at IS NOT NULL',
  link: 'SELECT min(look_due_at) AS at FROM links WHERE look_due_at IS NOT NULL',
  look: 'SELECT min(at) AS at FROM looks',
  turn: 'SELECT min(turns_at) AS at FROM segment_people WHERE turns_at IS NOT NULL',
}

const statements = new Map<string, string>()

/** One statement for all of them: each reads the end of an index. */
function earliestOf(kinds: readonly DueKind[]): string {
  const key = kinds.join()
  let sql = statements.get(key)
  if (!sql) {
    const parts = kinds.map((kind, n) => `SELECT ${n} AS n, '${kind}' AS kind, (${EARLIEST[kind]}) AS at`)
    statements.set(key, sql = `SELECT kind, at FROM (${parts.join(' UNION ALL ')}) WHERE at IS NOT NULL ORDER BY at, n LIMIT 1`)
  }
  return sql
}

/** The earliest due thing of these kinds, which are given in the order in which they are done at one instant; null if nothing waits. */
export function nextDue(db: Database, kinds: readonly DueKind[] = DUE_KINDS): { kind: DueKind, at: Instant } | null {
  return kinds.length === 0 ? null : q<{ kind: DueKind, at: Instant }>(db, earliestOf(kinds)).get() ?? null
}

/** When the next email goes, as far as is known now: a step's planned time or a waiting email's. */
export function nextSendAt(db: Database): Instant | null {
  return q<{ at: Instant | null }>(db, `SELECT min(at) AS at FROM (${EARLIEST.step} UNION ALL ${EARLIEST.email} UNION ALL ${EARLIEST.opening})`).get()!.at
}

/** Changes when what is going to be sent may have: an event, another draft, another email waiting first. Read from the ends of indexes. */
export function plansStamp(db: Database): string {
  return q<{ stamp: string }>(db, `
    SELECT coalesce((SELECT max(id) FROM events), 0) || '/' || coalesce((SELECT max(changed_at) FROM courses), 0) || '/' || coalesce((SELECT max(id) FROM offer_versions), 0) || '/' || coalesce((${EARLIEST.email}), 0) AS stamp`).get()!.stamp
}

/** How many things were due by `at` and are not done yet. */
export function backlog(db: Database, at: Instant): number {
  return q<{ n: number }>(db, `
    SELECT (SELECT count(*) FROM enrolments WHERE due_at IS NOT NULL AND due_at <= @at) + (SELECT count(*) FROM comings_in WHERE waits = 0 AND due_at <= @at)
      + (SELECT count(*) FROM outbox WHERE status IN ('queued', 'failed') AND go_at IS NOT NULL AND go_at <= @at) AS n`).get({ at })!.n
}
