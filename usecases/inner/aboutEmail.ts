/** What an event about an email is about. */
import type { EventAbout } from '#core/events'
import { kindOf, type SendKind } from '#core/sending/kinds'
import type { OutboxRow } from '#data/outbox'

/** What it comes of, for the event; that a rule sent it stands in the event before. */
const OWNER: Partial<Record<Exclude<SendKind['owner'], null>, (id: number) => EventAbout>> = {
  course: courseId => ({ courseId }), page: pageId => ({ pageId }), offer: offerId => ({ offerId }),
}

/** Of something that came of trying to send it: caused by what it was decided by. */
export const aboutAttempt = (email: OutboxRow): EventAbout & { personId: number } => ({
  ...aboutEmail(email), stepId: email.itemId, causeId: email.causeId,
})

/**
 * With the course or the page that the email comes of, and what it was sent by as the cause: its sending, or else what it was decided by.
 */
export function aboutEmail(email: OutboxRow): EventAbout & { personId: number } {
  const { owner } = kindOf(email.kind)
  const about = owner === null ? undefined : OWNER[owner]?.(email.ownerId)
  return { personId: email.personId, outboxId: email.id, ...about, causeId: email.sentEventId ?? email.causeId }
}
