/** Asking somebody to confirm an opt-in, and ending that. Always in the caller's transaction. */
import { confirmationTimes, MOST_REQUESTS_A_DAY, SAME_AGAIN_AFTER } from '#core/page/confirm'
import { DAY, type Instant } from '#core/time/zone'
import { occasionOf } from '#core/sending/occasion'
import {
  endConfirmation, insertConfirmation, markMailed, renewConfirmation, waitingFor, waitingOfPerson, type Answers, type ConfirmationRow,
} from '#data/confirmations'
import type { Database } from '#data/connection'
import { endWaitsOfPerson } from '#data/waits'
import { insertEmail, plannedSince } from '#data/outbox'
import type { PublishedPage } from '#data/pages'
import { withdrawEmails } from './withdraw'

export interface Press { page: PublishedPage, personId: number, answers: Answers, at: Instant, eventId: number }

/**
 * Asks, or renews what is being asked; the newest answers count. An email goes unless one has just gone, or very many have, or the
 * page was published before it had one and has just been brought up to date: then pressing again sends it.
 */
export function ask(db: Database, { page, personId, answers, at, eventId }: Press): void {
  const { id: pageId, versionId: pageVersionId, content } = page
  const waiting = waitingFor(db, pageId, personId)
  // A page that asks nobody has no reminder made: people who left are asked once.
  const times = confirmationTimes({ ...content.confirming, ...page.messages.reminder === undefined && { reminder: null } }, at)
  const asked = { pageId, pageVersionId, personId, eventId, answers, askedAt: at, ...times }
  const id = waiting?.id ?? insertConfirmation(db, asked)
  // The one reminder is not given a second time by pressing again.
  if (waiting) renewConfirmation(db, id, { ...asked, remindAt: waiting.remindAt === null ? null : times.remindAt })
  const mailedAt = waiting?.mailedAt ?? null
  const justMailed = mailedAt !== null && at - mailedAt < SAME_AGAIN_AFTER
  const { confirm } = page.messages
  if (confirm === undefined || justMailed || plannedSince(db, personId, 'confirmation', at - DAY) >= MOST_REQUESTS_A_DAY) return
  sendConfirmationRequest(db, { id, pageId, personId, eventId, mails: waiting?.mails ?? 0 }, page, confirm, at, 'asking')
}

/** Queues the email, or its reminder. */
export function sendConfirmationRequest(
  db: Database, row: Pick<ConfirmationRow, 'id' | 'pageId' | 'personId' | 'eventId' | 'mails'>, page: PublishedPage, messageId: number,
  at: Instant, what: 'asking' | 'reminder'
): void {
  insertEmail(db, {
    kind: 'confirmation', ownerId: row.pageId, personId: row.personId, itemId: what,
    occasion: occasionOf(row.id, row.mails === 0 ? null : `again-${row.mails}`), messageId,
    listId: page.content.listIds[0]!, askedFor: 1, causeId: row.eventId, plannedAt: at,
  })
  markMailed(db, row.id, at)
}

/** Nothing more is asked: what waits to be sent for it is withdrawn. */
export function endConfirmationRequest(
  db: Database, row: ConfirmationRow, state: Exclude<ConfirmationRow['state'], 'waiting'>, at: Instant, causeId: number,
): void {
  endConfirmation(db, row.id, state, at)
  withdrawEmails(db, row.personId, { kinds: ['confirmation'], occasionId: row.id }, at, causeId, state)
}

/**
 * They are gone, or somebody else's record: no yes of theirs counts any more. `waits`: what else they wait for ends, too, or only what they
 * have not confirmed.
 */
export function withdrawConfirmationRequests(
  db: Database, personId: number, at: Instant, causeId: number, waits: 'all' | 'unconfirmed' = 'all',
): void {
  endWaitsOfPerson(db, personId, at, waits)
  for (const row of waitingOfPerson(db, personId)) endConfirmationRequest(db, row, 'withdrawn', at, causeId)
}
