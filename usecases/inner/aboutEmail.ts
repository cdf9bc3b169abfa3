/** What an event about an email is about. */
import type { EventAbout } from '#core/events'
import type { OutboxRow } from '#data/outbox'

/** With the course or the page that the email comes of, and what it was sent by as the cause: its sending, or else what it was decided by. */
export function aboutEmail(email: OutboxRow): EventAbout & { personId: number } {
  return { personId: email.personId, outboxId: email.id, ...email.kind === 'course' ? { courseId: email.thingId } : email.kind === 'address' ? {} : { pageId: email.thingId }, causeId: email.sentEventId ?? email.causeId }
}
