/** Erasing a person for good: what is personal goes, the counts stay. */
import type { Instant } from '#core/time/zone'
import { immediate } from '#data/connection'
import { appendEvent } from '#data/events'
import { erasePersonalData, findPersonKey, forgetRefusedRows, formerKeys, remember } from '#data/erasing'
import { findPerson } from '#data/people'
import type { WorkspaceContext } from '../context'
import { withdrawConfirmationRequests } from '../inner/facts/confirmationRequests'
import { endEnrolments } from '../inner/journeys/enrolments'
import { withdrawEmails } from '../inner/facts/withdraw'
import { NotThere } from '../problem'

/** By hand, for one. */
export function erasePerson(context: WorkspaceContext, personId: number): void {
  immediate(context.db, () => {
    if (!findPerson(context.db, personId)) throw new NotThere('This subscriber no longer exists.')
    erase(context, personId, context.clock.now(), null)
  })
  context.wake()
}

/**
 * In the caller's transaction. Every course ends and waiting mail is withdrawn
 * first. Histories keep what happened, without whom it happened to; a keyed
 * digest of the address keeps an import from bringing them back.
 */
export function erase(context: WorkspaceContext, personId: number, at: Instant, causeId: number | null): void {
  const { db, signer } = context
  const person = findPerson(db, personId)!
  const eventId = appendEvent(db, 'erased', at, { personId, causeId })
  endEnrolments(db, personId, at, eventId, 'erased')
  withdrawConfirmationRequests(db, personId, at, eventId)
  withdrawEmails(db, personId, {}, at, eventId, 'erased')
  for (const key of [findPersonKey(db, personId), ...formerKeys(db, personId)]) {
    remember(db, { digest: signer.digest(key), status: person.status, at })
    forgetRefusedRows(db, key)
  }
  erasePersonalData(db, personId)
}
