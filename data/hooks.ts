/** Addresses outside that are called, addresses of ours that are called, and the calls. */
import { randomBytes } from 'node:crypto'
import type { HookReading } from '#core/hooks/reading'
import type { Instant } from '#core/time/zone'
import type { Database } from './connection'
import { prepare } from './connection'
import type { Due } from './dueKind'

export const CALLS_DUE: Due = { rows: 'hook_deliveries WHERE next_at IS NOT NULL', at: 'next_at' }

/** By number, those that were not deleted. */
export function hookNames(db: Database): { in: { id: number, name: string }[], out: { id: number, name: string }[] } {
  return {
    in: prepare<{ id: number, name: string }>(
      db, 'SELECT id, name FROM hooks_in WHERE ended_at IS NULL ORDER BY name COLLATE NOCASE',
    ).all(),
    out: prepare<{ id: number, name: string }>(
      db, 'SELECT id, name FROM hooks_out WHERE ended_at IS NULL ORDER BY name COLLATE NOCASE',
    ).all(),
  }
}

export function allowsInside(db: Database): boolean {
  return prepare<{ allows: 0 | 1 }>(db, 'SELECT hooks_inside AS allows FROM workspace WHERE id = 1').get()!.allows === 1
}

export function setAllowsInside(db: Database, allows: boolean): void {
  prepare(db, 'UPDATE workspace SET hooks_inside = ? WHERE id = 1').run(allows ? 1 : 0)
}

/* Out */

export interface HookOutRow { id: number, name: string, url: string, secret: string }

const OUT = 'SELECT id, name, url, secret FROM hooks_out'

export function allHooksOut(db: Database): HookOutRow[] {
  return prepare<HookOutRow>(db, `${OUT} WHERE ended_at IS NULL ORDER BY name COLLATE NOCASE, id`).all()
}

/** Also one that was deleted. */
export function findHookOut(db: Database, id: number): (HookOutRow & { ended: boolean }) | undefined {
  const row = prepare<HookOutRow & { ended: 0 | 1 }>(
    db, 'SELECT id, name, url, secret, ended_at IS NOT NULL AS ended FROM hooks_out WHERE id = ?',
  ).get(id)
  return row && { ...row, ended: row.ended === 1 }
}

export function insertHookOut(db: Database, row: Omit<HookOutRow, 'id'>, at: Instant): number {
  return Number(prepare(db, 'INSERT INTO hooks_out (name, url, secret, made_at) VALUES (?, ?, ?, ?)').run(
    row.name, row.url, row.secret, at,
  ).lastInsertRowid)
}

export function updateHookOut(db: Database, { id, name, url }: Omit<HookOutRow, 'secret'>): void {
  prepare(db, 'UPDATE hooks_out SET name = ?, url = ? WHERE id = ?').run(name, url, id)
}

/** What still waits to be delivered there is given up. */
export function endHookOut(db: Database, id: number, at: Instant): void {
  prepare(db, 'UPDATE hooks_out SET ended_at = ? WHERE id = ?').run(at, id)
  prepare(db, `
    UPDATE hook_deliveries SET state = 'given up', next_at = NULL, ended_at = ?, problem = 'the address was deleted'
    WHERE hook_id = ? AND state = 'waiting'`).run(at, id)
}

export interface DeliveryRow {
  id: number
  hookId: number
  /** The same however often it is tried: whoever is called can tell a repeat by it. */
  webhookId: string
  body: string
  personId: number | null
  state: 'waiting' | 'delivered' | 'given up'
  tries: number
  madeAt: Instant
  nextAt: Instant | null
  status: number | null
  problem: string | null
  endedAt: Instant | null
}

const DELIVERY = `
  SELECT id, hook_id AS hookId, webhook_id AS webhookId, body, person_id AS personId, state, tries, made_at AS madeAt, next_at AS nextAt,
    status, problem, ended_at AS endedAt
  FROM hook_deliveries`

export interface NewDelivery { hookId: number, personId: number | null, eventId: number, ruleId: number | null, at: Instant, body: string }

export function insertDelivery(db: Database, { hookId, personId, eventId, ruleId, at, body }: NewDelivery): void {
  prepare(db, `
    INSERT INTO hook_deliveries (hook_id, webhook_id, body, person_id, event_id, rule_id, made_at, next_at)
    VALUES (?, ?, ?, ?, ?, ?, ?, ?)`).run(hookId, `msg_${randomBytes(16).toString('hex')}`, body, personId, eventId, ruleId, at, at)
}

export function findDelivery(db: Database, id: number): DeliveryRow | undefined {
  return prepare<DeliveryRow>(db, `${DELIVERY} WHERE id = ?`).get(id)
}

export function latestDeliveries(db: Database, limit: number): DeliveryRow[] {
  return prepare<DeliveryRow>(db, `${DELIVERY} ORDER BY id DESC LIMIT ?`).all(limit)
}

/** Those whose time has come. Each is put off until `until`, so that it is not tried twice at once. */
export function claimDeliveries(db: Database, at: Instant, until: Instant, limit: number): DeliveryRow[] {
  const due = prepare<DeliveryRow>(db, `${DELIVERY} WHERE next_at IS NOT NULL AND next_at <= ? ORDER BY next_at, id LIMIT ?`).all(at, limit)
  prepare(db, 'UPDATE hook_deliveries SET next_at = ?, tries = tries + 1 WHERE id IN (SELECT value FROM json_each(?))').run(
    until, JSON.stringify(due.map(({ id }) => id)),
  )
  return due.map(row => ({ ...row, tries: row.tries + 1 }))
}

export function markDelivered(db: Database, id: number, status: number, at: Instant): void {
  prepare(db, `
    UPDATE hook_deliveries SET state = 'delivered', next_at = NULL, status = ?, problem = NULL, ended_at = ? WHERE id = ?
    AND state = 'waiting'`).run(status, at, id)
}

/** Null for `nextAt` gives it up. */
export function markCallFailed(
  db: Database, id: number, failed: { status: number | null, problem: string, nextAt: Instant | null, at: Instant },
): void {
  prepare(db, `
    UPDATE hook_deliveries SET state = CASE WHEN @nextAt IS NULL THEN 'given up'
    ELSE 'waiting' END, next_at = @nextAt, status = @status, problem = @problem, ended_at = CASE WHEN @nextAt IS NULL THEN @at END
    WHERE id = @id AND state = 'waiting'`).run({ id, ...failed })
}

/** From the beginning, under the same identifier. */
export function deliverAgain(db: Database, id: number, at: Instant): void {
  prepare(db, `UPDATE hook_deliveries SET state = 'waiting', tries = 0, next_at = ?, ended_at = NULL WHERE id = ?`).run(at, id)
}

/** How many were given up since an instant, by address. */
export function givenUpSince(db: Database, since: Instant): { id: number, name: string, n: number }[] {
  return prepare<{ id: number, name: string, n: number }>(db, `
    SELECT h.id, h.name, count(*) AS n FROM hook_deliveries d JOIN hooks_out h ON h.id = d.hook_id WHERE d.state = 'given up'
    AND d.ended_at > ? AND h.ended_at IS NULL GROUP BY h.id`).all(since)
}

/* In */

export interface HookInRow { id: number, name: string, token: string, secret: string, reading: HookReading }

const IN = 'SELECT id, name, token, secret, reading FROM hooks_in'
const parseIn = (row: Omit<HookInRow, 'reading'> & { reading: string }): HookInRow => ({
  ...row, reading: JSON.parse(row.reading) as HookReading,
})

export function allHooksIn(db: Database): HookInRow[] {
  return prepare<Omit<HookInRow, 'reading'> & { reading: string }>(
    db, `${IN} WHERE ended_at IS NULL ORDER BY name COLLATE NOCASE, id`,
  ).all().map(parseIn)
}

export function findHookIn(db: Database, id: number): HookInRow | undefined {
  return allHooksIn(db).find(hook => hook.id === id)
}

export function findHookByToken(db: Database, token: string): HookInRow | undefined {
  const row = prepare<Omit<HookInRow, 'reading'> & { reading: string }>(db, `${IN} WHERE token = ? AND ended_at IS NULL`).get(token)
  return row && parseIn(row)
}

export function insertHookIn(db: Database, row: Omit<HookInRow, 'id'>, at: Instant): number {
  return Number(prepare(db, 'INSERT INTO hooks_in (name, token, secret, reading, made_at) VALUES (?, ?, ?, ?, ?)').run(
    row.name, row.token, row.secret, JSON.stringify(row.reading), at,
  ).lastInsertRowid)
}

export function updateHookIn(db: Database, { id, name, reading }: Pick<HookInRow, 'id' | 'name' | 'reading'>): void {
  prepare(db, 'UPDATE hooks_in SET name = ?, reading = ? WHERE id = ?').run(name, JSON.stringify(reading), id)
}

export function endHookIn(db: Database, id: number, at: Instant): void {
  prepare(db, 'UPDATE hooks_in SET ended_at = ? WHERE id = ?').run(at, id)
}

export interface CallRow { hookId: number, callId: string, at: Instant, personId: number | null, problem: string | null }

/** False if this very call was taken before; one that could not be used then may come again. */
export function insertCall(db: Database, row: CallRow): boolean {
  return prepare(db, `INSERT INTO hook_calls (hook_id, call_id, at, person_id, problem) VALUES (@hookId, @callId, @at, @personId, @problem)
    ON CONFLICT (hook_id, call_id) DO UPDATE SET at = excluded.at, person_id = excluded.person_id, problem = excluded.problem
      WHERE hook_calls.problem IS NOT NULL`).run(row).changes === 1
}

export function latestCalls(db: Database, limit: number): CallRow[] {
  return prepare<CallRow>(
    db, 'SELECT hook_id AS hookId, call_id AS callId, at, person_id AS personId, problem FROM hook_calls ORDER BY at DESC LIMIT ?',
  ).all(limit)
}
