/** Emails that wait to be sent, and are not to be sent any more. */
import type { Instant } from '#core/time/zone'
import type { Database } from '#data/connection'
import { appendEvent } from '#data/events'
import { withdraw } from '#data/outbox'

/** Those that have not begun to leave; `reason` in a word, as the event's detail says it. */
export function withdrawEmails(
  db: Database, personId: number, only: Parameters<typeof withdraw>[2], at: Instant, causeId: number, reason: string,
): void {
  for (const outboxId of withdraw(db, personId, only, reason)) {
    appendEvent(db, 'withdrawn', at, { personId, outboxId, causeId, detail: reason })
  }
}
