/** What an event about an email is about. */
import type { EventAbout } from '#core/events'
import type { EmailKind, OutboxRow } from '#data/outbox'

/** What it comes of, for the event. */
const THING: Record<EmailKind, (id: number) => EventAbout> = {
  course: courseId => ({ courseId }), confirmation: pageId => ({ pageId }), file: pageId => ({ pageId }), receipt: offerId => ({ offerId }),
  waiting: offerId => ({ offerId }), rule: () => ({}), address: () => ({}),
}

/** Of something that came of trying to send it: caused by what it was decided by. */
export const aboutAttempt = (email: OutboxRow): EventAbout & { personId: number } => ({ ...aboutEmail(email), stepId: email.stepId, causeId: email.causeId })

/** With the course or the page that the email comes of, and what it was sent by as the cause: its sending, or else what it was decided by. */
export function aboutEmail(email: OutboxRow): EventAbout & { personId: number } {
  return { personId: email.personId, outboxId: email.id, ...THING[email.kind](email.thingId), causeId: email.sentEventId ?? email.causeId }
}
