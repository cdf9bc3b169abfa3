/** Addresses outside that are called, addresses of ours that are called, and the calls. */
import { randomUUID } from 'node:crypto'
import type { Instant } from '#core/time/zone'
import type { Database } from './connection'
import { q } from './connection'

export interface NewDelivery { hookId: number, personId: number | null, eventId: number, ruleId: number | null, at: Instant, body: string }

/** Its identifier stays the same however often it is tried: whoever is called can tell a repeat by it. */
export function insertDelivery(db: Database, { hookId, personId, eventId, ruleId, at, body }: NewDelivery): void {
  q(db, 'INSERT INTO hook_deliveries (hook_id, webhook_id, body, person_id, event_id, rule_id, made_at, next_at) VALUES (?, ?, ?, ?, ?, ?, ?, ?)').run(hookId, `msg_${randomUUID().replaceAll('-', '')}`, body, personId, eventId, ruleId, at, at)
}

/** By number, those that were not deleted. */
export function hookNames(db: Database): { in: { id: number, name: string }[], out: { id: number, name: string }[] } {
  const names = (table: string) => db.prepare<unknown[], { id: number, name: string }>(`SELECT id, name FROM ${table} WHERE ended_at IS NULL ORDER BY name COLLATE NOCASE`).all()
  return { in: names('hooks_in'), out: names('hooks_out') }
}
