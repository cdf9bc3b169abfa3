/** Someone leaves: by the link of an email, or by their mail program's one press (RFC 8058). */
import { waitingOfPerson } from '#data/confirmations'
import { appendEvent } from '#data/events'
import { findEmail } from '#data/outbox'
import { findPerson } from '#data/people'
import { standsFor } from '#data/markEnds'
import { markLeft } from '#data/reading'
import { isGone } from '#core/people/status'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { aboutEmail } from '../inner/aboutEmail'
import { withdrawConfirmationRequests } from '../inner/facts/confirmationRequests'
import { endEnrolments } from '../inner/journeys/enrolments'
import { changeStatus, leaveList } from '../inner/facts/marks'
import { NotThere } from '../problem'
import { keepUndo } from './takeBack'

export type Leaving = { what: 'course' } | { what: 'list', listId: number } | { what: 'everything' }

/** `token` is the signed one of an email's own address; it says whose email it was. */
export function readChoicesToken(context: WorkspaceContext, token: string): number {
  const what = context.signer.read('choices', token)
  if (what === null) {
    throw new NotThere('This link is not complete. Please use the link in the email itself.')
  }
  return Number(what)
}

/** Doing it twice is as good as once. It can be taken back for a while. */
export function leave(context: WorkspaceContext, outboxId: number, leaving: Leaving): void {
  const { db } = context
  transact(context, () => {
    const email = findEmail(db, outboxId)
    if (!email) throw new NotThere('This email is no longer known.')
    const at = context.clock.now()
    const { personId } = email
    const person = findPerson(db, personId)
    if (!person) throw new NotThere('This email is no longer known.')
    const from = email.sentEventId ?? email.causeId
    if (leaving.what === 'everything') {
      // Who had left and opted in anew since, without saying yes yet, takes that back.
      if (isGone(person.status) && waitingOfPerson(db, personId).length === 0 && person.status !== 'bounced') return
      keepUndo(db, personId, outboxId, at)
      const causeId = appendEvent(db, 'unsubscribed', at, { ...aboutEmail(email), causeId: from })
      markLeft(db, outboxId, at)
      withdrawConfirmationRequests(db, personId, at, causeId)
      changeStatus(db, personId, 'unsubscribed', { at, causeId, ownAct: true })
    }
    else if (leaving.what === 'list') {
      if (standsFor(db, 'lists', leaving.listId) === null) throw new NotThere('This list no longer exists.')
      keepUndo(db, personId, outboxId, at)
      markLeft(db, outboxId, at)
      leaveList(db, personId, leaving.listId, { at, causeId: from, ownAct: true })
    }
    else {
      if (email.kind !== 'course') throw new NotThere('This email is not of a course.')
      keepUndo(db, personId, outboxId, at)
      const ended = endEnrolments(db, personId, at, from, 'own-choice', row => row.courseId === email.ownerId)
      if (ended > 0) markLeft(db, outboxId, at)
    }
  })
}
