/** Receiving domains: how many a minute each gets, and which of them put us off just now. */
import { FRESH, NO_RATES, type DomainRates, type DomainState } from '#core/sending/domainPace'
import type { Instant } from '#core/time/zone'
import type { Database } from './connection'
import { prepare } from './connection'
import { keepSteady } from './kept'

export const domainRates = (db: Database): DomainRates => keepSteady(db, 'domain rates', () => {
  const { rates } = prepare<{ rates: string | null }>(db, 'SELECT domain_rates AS rates FROM workspace WHERE id = 1').get()!
  return rates === null ? NO_RATES : JSON.parse(rates) as DomainRates
})

export function setDomainRates(db: Database, rates: DomainRates): void {
  prepare(db, 'UPDATE workspace SET domain_rates = ? WHERE id = 1').run(
    rates.everyDomain === null && rates.domains.length === 0 ? null : JSON.stringify(rates),
  )
}

export function domainState(db: Database, domain: string): DomainState {
  return prepare<DomainState>(db, `
    SELECT next_at AS nextAt, deferred, pauses, pause_until_at AS pauseUntilAt FROM domain_pace WHERE domain = ?`).get(domain) ?? FRESH
}

/** `said`: what it put us off with; null leaves what it said before. */
export function setDomainState(db: Database, domain: string, state: DomainState, said: string | null = null): void {
  prepare(db, `
    INSERT INTO domain_pace (domain, next_at, deferred, pauses, pause_until_at, said)
    VALUES (@domain, @nextAt, @deferred, @pauses, @pauseUntilAt, @said)
    ON CONFLICT (domain) DO UPDATE SET next_at = excluded.next_at, deferred = excluded.deferred, pauses = excluded.pauses,
      pause_until_at = excluded.pause_until_at, said = coalesce(excluded.said, said)`).run({ ...state, domain, said })
}

/** It has accepted one: nothing of what it put off counts any more. */
export function setDomainWell(db: Database, domain: string): void {
  prepare(db, `UPDATE domain_pace SET deferred = 0, pauses = 0, pause_until_at = NULL, said = NULL
    WHERE domain = ? AND deferred > 0`).run(domain)
}

/** Its pause is over, and nothing of it counts any more. False if it does not pause. */
export function endPause(db: Database, domain: string, now: Instant): boolean {
  return prepare(db, `
    UPDATE domain_pace SET deferred = 0, pauses = 0, pause_until_at = NULL, said = NULL
    WHERE domain = ? AND pause_until_at > ?`).run(domain, now).changes === 1
}

/** Turns are given anew from now on. */
export const forgetTurns = (db: Database): unknown => prepare(db, 'UPDATE domain_pace SET next_at = NULL').run()

export interface PausingDomain { domain: string, untilAt: Instant, pauses: number, said: string, waiting: number }

/** Those that pause now, with the emails that wait for it. */
export function pausingDomains(db: Database, now: Instant): PausingDomain[] {
  return prepare<PausingDomain>(db, `
    SELECT d.domain, d.pause_until_at AS untilAt, d.pauses, d.said, (SELECT count(*) FROM outbox o JOIN people p ON p.id = o.person_id
      WHERE o.turn_at IS NOT NULL AND o.status = 'queued' AND o.reason = 'domain pauses'
        AND substr(p.address_key, instr(p.address_key, '@') + 1) = d.domain) AS waiting
    FROM domain_pace d WHERE d.pause_until_at > ? ORDER BY d.domain`).all(now)
}

/** Whether another domain pauses, too. */
export const anotherPauses = (db: Database, domain: string, now: Instant): boolean =>
  prepare(db, 'SELECT 1 FROM domain_pace WHERE pause_until_at > ? AND domain <> ? LIMIT 1').get(now, domain) !== undefined

/** Whether any email may have to wait for its turn: for its domain, or by the plan of its sender. */
export const isPaced = (db: Database): boolean => prepare<{ is: 0 | 1 }>(db, `
  SELECT domain_rates IS NOT NULL OR EXISTS (SELECT 1 FROM domain_pace WHERE pause_until_at IS NOT NULL)
    OR EXISTS (SELECT 1 FROM senders WHERE warm_up IS NOT NULL) AS "is"
  FROM workspace WHERE id = 1`).get()!.is === 1
