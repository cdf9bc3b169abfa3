/** The results of a send to an audience: numbers, and the people behind them. */
import type { Instant } from '#core/time/zone'
import type { NumberAsked, Split, SplitNumber, SplitRow } from '#core/views/broadcastResults'
import type { Who } from '#core/views/courseNumbers'
import { EMAIL_BEHIND } from './attribution'
import type { Database } from './connection'
import { prepare } from './connection'
import { emailsOfSend } from './sends'

export interface SendOutcome { sent: number, opened: number, silent: number, clicked: number, left: number, uncertain: number }

/**
 * Opens are reader opens. Silent: neither opened nor clicked; uncertain: those of them whose email was opened as programs do it.
 */
export function outcomeOf(db: Database, sendId: number): SendOutcome {
  return prepare<SendOutcome>(db, `
    SELECT count(*) AS sent, count(opened_at) AS opened, count(clicked_at) AS clicked, count(left_at) AS left,
      coalesce(sum(opened_at IS NULL AND clicked_at IS NULL), 0) AS silent,
      coalesce(sum(opened_at IS NULL AND clicked_at IS NULL AND EXISTS (SELECT 1 FROM opens r WHERE r.outbox_id = o.id)), 0) AS uncertain
    FROM outbox o WHERE send_id = ? AND handed_over_at IS NOT NULL`).get(sendId)!
}

/** First opens and first clicks by the whole hours after `from`. */
export function hoursOf(db: Database, sendId: number, from: Instant): { hour: number, opened: number, clicked: number }[] {
  return prepare<{ hour: number, opened: number, clicked: number }>(db, `
    SELECT hour, sum(opened) AS opened, sum(clicked) AS clicked FROM (
      SELECT CAST((opened_at - @from) / 3600000 AS INTEGER) AS hour, 1 AS opened, 0 AS clicked FROM outbox
      WHERE send_id = @sendId AND opened_at IS NOT NULL
      UNION ALL
      SELECT CAST((clicked_at - @from) / 3600000 AS INTEGER), 0, 1 FROM outbox WHERE send_id = @sendId AND clicked_at IS NOT NULL
    ) GROUP BY hour ORDER BY hour`).all({ sendId, from })
}

/** Clicks by readers, and how many different readers these are, of each link by its place in the email. */
export function linkClicks(db: Database, sendId: number): { n: number, clicks: number, people: number }[] {
  return prepare<{ n: number, clicks: number, people: number }>(db, `
    SELECT c.link_n AS n, count(*) AS clicks, count(DISTINCT c.outbox_id) AS people FROM outbox o JOIN clicks c ON c.outbox_id = o.id
    WHERE o.send_id = ? AND o.clicked_at IS NOT NULL AND c.judged = 'reader' GROUP BY 1 ORDER BY 1`).all(sendId)
}

export function heldBackOf(db: Database, sendId: number): { reason: string, people: number }[] {
  return prepare<{ reason: string, people: number }>(db, `
    SELECT reason, count(*) AS people FROM ${emailsOfSend('outbox_held_back')} AND o.status = 'held back' GROUP BY 1
    ORDER BY 2 DESC`).all({ sendId })
}

const IS_BOUNCE = `EXISTS (SELECT 1 FROM events e WHERE e.kind = 'bounced' AND e.person_id = o.person_id AND e.outbox_id = o.id)`
/** Several lines begin with `550-`, the last with `550 ` (RFC 5321 section 4.2.1). */
const REPLY = `(replace(substr(o.reason, 1, 4), '-', ' ') || substr(o.reason, 5))`
const IS_REFUSED = `o.send_id = @sendId AND o.status IN ('queued', 'failed') AND o.status = 'failed' AND o.go_at IS NULL`

/** Refused for good, or given up, with the last answer. */
export function refusedOf(db: Database, sendId: number): { isBounce: boolean, said: string, people: number }[] {
  return prepare<{ isBounce: 0 | 1, said: string, people: number }>(db, `
    SELECT ${IS_BOUNCE} AS isBounce, coalesce(o.reason, '') AS said, count(*) AS people FROM outbox o WHERE ${IS_REFUSED}
    GROUP BY 1, 2 ORDER BY 3 DESC, 2`).all({ sendId }).map(row => ({ ...row, isBounce: row.isBounce === 1 }))
}

/** The last email before a complaint is what it is about. */
const COMPLAINED = `SELECT o.person_id AS personId, e.at FROM outbox o
  JOIN events e ON e.person_id = o.person_id AND e.kind = 'complained' AND e.at >= o.handed_over_at
  WHERE o.send_id = @sendId AND o.handed_over_at IS NOT NULL AND NOT EXISTS (SELECT 1 FROM outbox x
    WHERE x.person_id = o.person_id AND x.handed_over_at > o.handed_over_at AND x.handed_over_at <= e.at)`

export const countComplained = (db: Database, sendId: number): number => prepare<{ n: number }>(db, `
  SELECT count(DISTINCT c.personId) AS n FROM (${COMPLAINED}) c`).get({ sendId })!.n

/** Purchases that it led to; only of those who clicked in it. */
const BOUGHT = `SELECT p.person_id AS personId, p.bought_at AS at, p.currency, p.paid - p.refunded AS amount
  FROM outbox o JOIN purchases p ON p.person_id = o.person_id AND p.bought_at >= o.clicked_at
  WHERE o.send_id = @sendId AND o.clicked_at IS NOT NULL AND ${EMAIL_BEHIND} = o.id`

export function boughtBy(db: Database, sendId: number, clickMs: number): { people: number, money: { currency: string, amount: number }[] } {
  const at = { sendId, clickMs }
  return {
    people: prepare<{ n: number }>(db, `SELECT count(DISTINCT personId) AS n FROM (${BOUGHT})`).get(at)!.n,
    money: prepare<{ currency: string, amount: number }>(db, `
      SELECT currency, sum(amount) AS amount FROM (${BOUGHT}) GROUP BY 1 ORDER BY 1`).all(at),
  }
}

/* Within parts of its people */

const DOMAIN = `substr(p.address_key, instr(p.address_key, '@') + 1)`
const PARTS: Record<Split, { from: string, name: string, part: string }> = {
  domain: { from: 'JOIN people p ON p.id = o.person_id', name: DOMAIN, part: DOMAIN },
  source: { from: 'JOIN people p ON p.id = o.person_id', name: 'p.source', part: 'p.source' },
  tag: {
    from: 'JOIN tag_holdings h ON h.person_id = o.person_id JOIN tags t ON t.id = h.tag_id AND t.gone IS NULL', name: 't.name',
    part: 't.id',
  },
  segment: {
    from: `JOIN segment_people i ON i.person_id = o.person_id AND i.inside = 1
      JOIN segments s ON s.id = i.segment_id AND s.watch IS NULL AND s.gone = 0`,
    name: 's.name', part: 's.id',
  },
}

/** As people are now. */
export function splitOf(db: Database, sendId: number, by: Split, limit: number): SplitRow[] {
  const { from, name, part } = PARTS[by]
  return prepare<SplitRow>(db, `
    SELECT CAST(${part} AS TEXT) AS part, ${name} AS name, count(*) AS sent, count(o.opened_at) AS opened, count(o.clicked_at) AS clicked
    FROM outbox o ${from} WHERE o.send_id = ? AND o.handed_over_at IS NOT NULL GROUP BY 1 ORDER BY 3 DESC, 2, 1 LIMIT ?`).all(sendId, limit)
}

/* Who they are */

/** Each number as `personId` and `at`; what follows the first hyphen is given as `@which`. */
const NUMBERS: Record<string, string> = {
  sent: `SELECT person_id AS personId, handed_over_at AS at FROM outbox WHERE send_id = @sendId AND handed_over_at IS NOT NULL`,
  opened: `SELECT person_id AS personId, opened_at AS at FROM outbox WHERE send_id = @sendId AND opened_at IS NOT NULL`,
  clicked: `SELECT person_id AS personId, clicked_at AS at FROM outbox WHERE send_id = @sendId AND clicked_at IS NOT NULL`,
  notopened: `SELECT person_id AS personId, handed_over_at AS at FROM outbox WHERE send_id = @sendId AND handed_over_at IS NOT NULL
    AND opened_at IS NULL AND clicked_at IS NULL`,
  notclicked: `SELECT person_id AS personId, handed_over_at AS at FROM outbox WHERE send_id = @sendId AND handed_over_at IS NOT NULL
    AND clicked_at IS NULL`,
  uncertain: `SELECT o.person_id AS personId, min(r.at) AS at FROM outbox o JOIN opens r ON r.outbox_id = o.id
    WHERE o.send_id = @sendId AND o.handed_over_at IS NOT NULL AND o.opened_at IS NULL AND o.clicked_at IS NULL GROUP BY 1`,
  left: `SELECT person_id AS personId, left_at AS at FROM outbox WHERE send_id = @sendId AND left_at IS NOT NULL`,
  held: `SELECT o.person_id AS personId, o.planned_at AS at FROM ${emailsOfSend('outbox_held_back')} AND o.status = 'held back'
    AND o.reason = @which`,
  // Those whose answer begins with `@which`, and not with a longer number.
  refused: `SELECT o.person_id AS personId, o.planned_at AS at FROM outbox o WHERE ${IS_REFUSED}
    AND CASE @which WHEN '' THEN o.reason IS NULL OR o.reason NOT GLOB '[245][0-9][0-9]*'
      ELSE substr(${REPLY}, 1, length(@which)) = @which AND substr(${REPLY}, length(@which) + 1, 1) NOT GLOB '[0-9]'
        AND (length(@which) > 3 OR ${REPLY} NOT GLOB '[245][0-9][0-9] [245].[0-9]*.[0-9]*') END`,
  link: `SELECT o.person_id AS personId, min(c.at) AS at FROM outbox o JOIN clicks c ON c.outbox_id = o.id
    WHERE o.send_id = @sendId AND c.judged = 'reader' AND c.link_n = CAST(@which AS INTEGER) GROUP BY 1`,
  complained: `SELECT personId, max(at) AS at FROM (${COMPLAINED}) GROUP BY 1`,
  bought: `SELECT personId, max(at) AS at FROM (${BOUGHT}) GROUP BY 1`,
}

const AT: Record<SplitNumber, string> = { sent: 'o.handed_over_at', opened: 'o.opened_at', clicked: 'o.clicked_at' }

/** Of one of its parts: `@which` is the part. */
function withinPart(number: SplitNumber, by: Split): string {
  const { from, part } = PARTS[by]
  return `SELECT o.person_id AS personId, ${AT[number]} AS at FROM outbox o ${from}
    WHERE o.send_id = @sendId AND o.handed_over_at IS NOT NULL AND ${AT[number]} IS NOT NULL AND CAST(${part} AS TEXT) = @which`
}

const NAME = `CASE p.first_name WHEN '' THEN p.address ELSE p.first_name || ', ' || p.address END AS name`

/**
 * The people behind one of its numbers, the latest first; undefined for a number it does not have. `within`: of one of its parts, where the
 * number is of one.
 */
export function peopleOfNumber(
  db: Database, { key, within }: NumberAsked,
  { sendId, clickMs, limit, offset }: { sendId: number, clickMs: number, limit: number, offset: number },
): Who[] | undefined {
  const [, name, which = ''] = /^([a-z]+)(?:-(.*))?$/.exec(key) ?? []
  const isKnown = name !== undefined && Object.hasOwn(within ? AT : NUMBERS, name)
  if (!isKnown) return undefined
  const sql = within ? withinPart(name as SplitNumber, within.by) : NUMBERS[name]!
  return prepare<Who>(db, `
    SELECT p.id AS personId, ${NAME}, w.at FROM (${sql}) w JOIN people p ON p.id = w.personId WHERE p.gone IS NULL
    ORDER BY w.at DESC, p.id DESC LIMIT @limit OFFSET @offset`).all({ sendId, which: within?.part ?? which, clickMs, limit, offset })
}
