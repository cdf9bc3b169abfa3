/** Plans of new senders, and what left from each by day. */
import type { SentOn, WarmUp } from '#core/sending/warmUp'
import type { LocalDate } from '#core/time/zone'
import type { Database } from './connection'
import { prepare } from './connection'
import { keepSteady } from './kept'

export const warmUpOf = (db: Database, senderId: number): WarmUp | null => keepSteady(db, `warm-up ${senderId}`, () => {
  const plan = prepare<{ plan: string | null }>(db, 'SELECT warm_up AS plan FROM senders WHERE id = ?').get(senderId)?.plan ?? null
  return plan === null ? null : JSON.parse(plan) as WarmUp
})

export function setWarmUp(db: Database, senderId: number, plan: WarmUp | null): void {
  prepare(db, 'UPDATE senders SET warm_up = ? WHERE id = ?').run(plan && JSON.stringify(plan), senderId)
}

/** Since its plan began, by day. */
export const sentByDay = (db: Database, senderId: number, since: LocalDate): SentOn[] =>
  prepare<SentOn>(db, 'SELECT date, sent FROM sender_days WHERE sender_id = ? AND date >= ? ORDER BY date').all(senderId, since)

export function countSent(db: Database, senderId: number, date: LocalDate): void {
  prepare(db, `
    INSERT INTO sender_days (sender_id, date, sent) VALUES (?, ?, 1)
    ON CONFLICT (sender_id, date) DO UPDATE SET sent = sent + 1`).run(senderId, date)
}

/** Emails that wait for another day because of a plan. */
export const waitingForPlans = (db: Database): number => prepare<{ n: number }>(
  db, `SELECT count(*) AS n FROM outbox WHERE turn_at IS NOT NULL AND status = 'queued' AND reason = 'warm-up'`,
).get()!.n
