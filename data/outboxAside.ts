/** Emails that wait for the owner to do something, or for their turn. */
import type { WaitsForTurn } from '#core/sending/reasons'
import type { Instant } from '#core/time/zone'
import type { Database } from './connection'
import { prepare } from './connection'
import { expectOne } from './outbox'

/* Set aside: it waits for no time, but for the owner */

export type SetAside = 'resting' | 'domain stopped' | 'carrier stopped' | 'course stopped' | 'send paused'
  | 'sender not confirmed' | 'sender stopped'

/** One of ours. */
export function setAside(db: Database, id: number, owner: string, why: SetAside): void {
  expectOne(prepare(db, `UPDATE outbox SET status = 'queued', go_at = NULL, reason = ?, lease_owner = NULL, lease_until_at = NULL
    WHERE id = ? AND status IN ('leased', 'handing over') AND lease_owner = ?`).run(why, id, owner).changes, id, 'set aside')
}

/** Sending goes on: what it stopped at goes after all that waits already. */
export function releaseCarrier(db: Database, at: Instant): void {
  prepare(db, `
    UPDATE outbox SET go_at = max(planned_at, ?), reason = NULL WHERE status = 'queued' AND go_at IS NULL
    AND reason = 'carrier stopped'`).run(at)
}

/** What waits for a sender is looked at anew: it may be another by now, or confirmed. */
export function releaseSenders(db: Database, at: Instant): void {
  prepare(db, `
    UPDATE outbox SET go_at = max(planned_at, ?), reason = NULL WHERE status = 'queued' AND go_at IS NULL
    AND reason IN ('sender not confirmed', 'sender stopped')`).run(at)
}

/** How many wait for a sender. */
export const waitingForSenders = (db: Database): number => prepare<{ n: number }>(db, `
  SELECT count(*) AS n FROM outbox WHERE status = 'queued' AND go_at IS NULL
  AND reason IN ('sender not confirmed', 'sender stopped')`).get()!.n

/** What waits to leave of a course that its owner stops. */
export function setCourseAside(db: Database, courseId: number): void {
  prepare(db, `UPDATE outbox SET status = 'queued', go_at = NULL, reason = 'course stopped'
    WHERE kind = 'course' AND owner_id = ? AND go_at IS NOT NULL
    AND status IN ('queued', 'failed')`).run(courseId)
}

/** It goes on, and what was set aside leaves, at its own time or now. */
export function releaseCourse(db: Database, courseId: number, at: Instant): void {
  prepare(db, `UPDATE outbox SET go_at = max(planned_at, @at), reason = NULL
    WHERE kind = 'course' AND owner_id = @courseId AND status = 'queued' AND go_at IS NULL
      AND reason = 'course stopped'`).run({ courseId, at })
}

/** What waits to leave of a send that its owner lets wait. */
export function setSendAside(db: Database, sendId: number): void {
  prepare(db, `UPDATE outbox SET status = 'queued', go_at = NULL, reason = 'send paused' WHERE send_id = ? AND go_at IS NOT NULL
    AND status IN ('queued', 'failed')`).run(sendId)
}

/** It goes on, and what was set aside leaves, at its own time or now. */
export function releaseSend(db: Database, sendId: number, at: Instant): void {
  prepare(db, `UPDATE outbox SET go_at = max(planned_at, @at), reason = NULL
    WHERE send_id = @sendId AND status IN ('queued', 'failed') AND status = 'queued' AND go_at IS NULL
    AND reason = 'send paused'`).run({ sendId, at })
}

/** Emails to that domain that were set aside wait to go again. Returns how many. */
export function releaseDomain(db: Database, domain: string, at: Instant): number {
  return prepare(db, `UPDATE outbox SET go_at = max(planned_at, @at), reason = NULL WHERE status = 'queued' AND go_at IS NULL
    AND reason = 'domain stopped'
    AND person_id IN (SELECT id FROM people WHERE substr(address_key, instr(address_key, '@') + 1) = @domain)`).run({ domain, at }).changes
}

/** Refused in a wave, which was not about them: they are set aside until the owner has looked. */
export function setRefusedAside(db: Database, ids: readonly number[], why: SetAside): void {
  prepare(db, `UPDATE outbox SET status = 'queued', go_at = NULL, reason = @why, first_try_at = NULL
    WHERE status IN ('failed', 'withdrawn') AND go_at IS NULL
      AND id IN (SELECT value FROM json_each(@ids))`).run({ ids: JSON.stringify(ids), why })
}

/* Waiting for a turn */

/** It waits for its turn; that moves nothing that counts from it. */
export function waitForTurn(db: Database, id: number, owner: string, turnAt: Instant, why: WaitsForTurn): void {
  expectOne(prepare(db, `
    UPDATE outbox SET status = 'queued', go_at = @turnAt, turn_at = @turnAt, reason = @why, lease_owner = NULL, lease_until_at = NULL
    WHERE id = @id AND status = 'leased' AND lease_owner = @owner`).run({ id, owner, turnAt, why }).changes, id, 'let wait for its turn')
}

/** What waits for a turn of one of these kinds is looked at anew; of one domain, or of all. */
export function releaseTurns(db: Database, why: readonly WaitsForTurn[], at: Instant, domain: string | null = null): void {
  prepare(db, `
    UPDATE outbox SET go_at = max(planned_at, @at), turn_at = NULL, reason = NULL
    WHERE turn_at IS NOT NULL AND status = 'queued' AND reason IN (SELECT value FROM json_each(@why)) AND (@domain IS NULL
      OR person_id IN (SELECT id FROM people WHERE substr(address_key, instr(address_key, '@') + 1) = @domain))`).run({
    why: JSON.stringify(why), at, domain,
  })
}
