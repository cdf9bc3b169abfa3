/** What is due next, over everything that waits for a time. */
import type { Instant } from '#core/time/zone'
import type { Database } from './connection'
import { PAUSES_DUE } from './choices'
import { CONFIRMATIONS_DUE } from './confirmations'
import { prepare } from './connection'
import type { Due } from './dueKind'
import { STEPS_DUE, TIMEOUTS_DUE } from './enrolments'
import { ENTRIES_DUE } from './entries'
import { CALLS_DUE } from './hooks'
import { LINKS_DUE } from './links'
import { EXPIRIES_DUE } from './marks'
import { NOTICES_DUE } from './notices'
import { EMAILS_DUE } from './outbox'
import { PAYMENTS_DUE } from './practiceOrders'
import { DOMAINS_DUE } from './senders'
import { CHECKOUTS_DUE, PURCHASES_DUE } from './purchases'
import { CLICKS_DUE, READERS_DUE } from './reading'
import { REEVALUATIONS_DUE, SEGMENT_QUEUE_DUE } from './segments'
import { SENDS_DUE } from './sends'
import { SUMMARIES_DUE } from './summary'
import { OPENINGS_DUE } from './waits'

/** In the order in which things due at the same instant are done. What doing one means says usecases/time/due.ts. */
export const DUE = {
  payment: PAYMENTS_DUE,
  purchase: PURCHASES_DUE,
  checkout: CHECKOUTS_DUE,
  opening: OPENINGS_DUE,
  send: SENDS_DUE,
  pause: PAUSES_DUE,
  entry: ENTRIES_DUE,
  step: STEPS_DUE,
  confirmation: CONFIRMATIONS_DUE,
  click: CLICKS_DUE,
  timeout: TIMEOUTS_DUE,
  expiry: EXPIRIES_DUE,
  notice: NOTICES_DUE,
  summary: SUMMARIES_DUE,
  email: EMAILS_DUE,
  call: CALLS_DUE,
  reader: READERS_DUE,
  link: LINKS_DUE,
  domain: DOMAINS_DUE,
  segment: SEGMENT_QUEUE_DUE,
  reevaluation: REEVALUATIONS_DUE,
} as const satisfies Record<string, Due>

export type DueKind = keyof typeof DUE
export const DUE_KINDS = Object.keys(DUE) as readonly DueKind[]

const earliest = (kind: DueKind): string => `SELECT min(${DUE[kind].at}) AS at FROM ${DUE[kind].rows}`

const statements = new Map<string, string>()

/** One statement for all of them: each reads the end of an index. */
function earliestOf(kinds: readonly DueKind[]): string {
  const key = kinds.join()
  let sql = statements.get(key)
  if (!sql) {
    const parts = kinds.map((kind, n) => `SELECT ${n} AS n, '${kind}' AS kind, (${earliest(kind)}) AS at`)
    statements.set(key, sql = `SELECT kind, at FROM (${parts.join(' UNION ALL ')}) WHERE at IS NOT NULL ORDER BY at, n LIMIT 1`)
  }
  return sql
}

/** The earliest due thing of these kinds, which are given in the order in which they are done at one instant; null if nothing waits. */
export function nextDue(db: Database, kinds: readonly DueKind[] = DUE_KINDS): { kind: DueKind, at: Instant } | null {
  return kinds.length === 0 ? null : prepare<{ kind: DueKind, at: Instant }>(db, earliestOf(kinds)).get() ?? null
}

/** When the next email goes, as far as is known now: a step's planned time or a waiting email's. */
export function nextSendAt(db: Database): Instant | null {
  return prepare<{ at: Instant | null }>(db, `
    SELECT min(at) AS at
    FROM (${earliest('step')} UNION ALL ${earliest('email')} UNION ALL ${earliest('opening')} UNION ALL ${earliest('send')})`).get()!.at
}

/** Changes when what is going to be sent may have: an event, another draft, another email waiting first. Read from the ends of indexes. */
export function plansStamp(db: Database): string {
  return prepare<{ stamp: string }>(db, `
    SELECT coalesce((SELECT max(id)
      FROM events), 0) || '/' || coalesce((SELECT max(changed_at) FROM courses), 0) || '/' || coalesce((SELECT max(id)
        FROM offer_versions), 0) || '/' || coalesce((${earliest('email')}), 0)
      || '/' || (SELECT count(*) || '/' || coalesce(max(id), 0) FROM sends WHERE state = 'scheduled') AS stamp`).get()!.stamp
}

/** What makes the workspace look late: people on their way, and mail. */
const BACKLOG: readonly DueKind[] = ['step', 'entry', 'email']

/** How many of those were due by `at` and are not done yet; without emails where nobody is to send any. */
export function backlog(db: Database, at: Instant, sends = true): number {
  const counts = BACKLOG.filter(kind => sends || kind !== 'email').map(
    kind => `(SELECT count(*) FROM ${DUE[kind].rows} AND ${DUE[kind].at} <= @at)`
  )
  return prepare<{ n: number }>(db, `SELECT ${counts.join(' + ')} AS n`).get({ at })!.n
}

/** Of one kind: how much is due by now and not done, since when the oldest, and when the next comes. */
export function workOf(db: Database, kind: DueKind, now: Instant): { due: number, oldestAt: Instant | null, nextAt: Instant | null } {
  const { at, rows } = DUE[kind]
  const { due, oldestAt } = prepare<{ due: number, oldestAt: Instant | null }>(db, `
    SELECT count(*) AS due, min(${at}) AS oldestAt FROM ${rows} AND ${at} <= ?`).get(now)!
  return { due, oldestAt, nextAt: prepare<{ at: Instant | null }>(db, `SELECT min(${at}) AS at FROM ${rows} AND ${at} > ?`).get(now)!.at }
}
