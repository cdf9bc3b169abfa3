/** Waiting until an offer can be bought, in the caller's transaction. */
import { kindsThat } from '#core/sending/kinds'
import type { Instant } from '#core/time/zone'
import type { Database } from '#data/connection'
import { appendEvent, wasTakenOff } from '#data/events'
import { findHolding, membership } from '#data/marks'
import { publishedOfferById, type PublishedOffer } from '#data/offers'
import { owns } from '#data/purchases'
import { confirmWait, endWaits, insertWait, checkOpeningAt, openWait } from '#data/waits'
import type { Cause } from './cause'
import { giveTag, joinList, leaveList, takeTag } from './marks'
import { withdrawEmails } from './withdraw'

/** The two emails of a waiting list: what asks for a place in the line, and what tells that it has come to that. */
export const waitRequestOf = (offerId: number) => ({ kind: 'waiting' as const, ownerId: offerId, itemId: 'asking' })
export const openingOf = (offerId: number) => ({ kind: 'opening' as const, ownerId: offerId, itemId: 'opening' })
const ofWaiting = () => kindsThat(kind => kind.forPeopleWaiting === true)

/** What a waiting list gives who joins it. Gone meanwhile, it is not given. */
export function giveWhatWaitingGives(db: Database, personId: number, { content: { waiting } }: PublishedOffer, cause: Cause): void {
  for (const listId of waiting?.listIds ?? []) joinList(db, personId, listId, cause)
  for (const tagId of waiting?.tagIds ?? []) giveTag(db, personId, tagId, cause)
}

/** It counts from now on, and they are told at once if it can be bought already. */
export function countWait(db: Database, { id, offerId }: { id: number, offerId: number }, at: Instant): void {
  confirmWait(db, id, at)
  checkOpeningAt(db, offerId, at)
}

/**
 * A subscriber joins by following a link in an email of theirs: nothing is to be confirmed. Says in a word what it came to. Nobody is
 * brought back onto a list that they left themselves.
 */
export function joinWaiting(db: Database, personId: number, offerId: number, cause: Cause & { causeId: number }): string {
  const { at, causeId } = cause
  const offer = publishedOfferById(db, offerId)
  if (!offer?.content.waiting) return 'no-waiting-list'
  if (owns(db, personId, offerId)) return 'owns-it'
  const known = openWait(db, offerId, personId)
  if (known && known.confirmedAt !== null) return 'waits-already'
  if (offer.content.waiting.listIds.some(listId => membership(db, listId, personId) === 'left' && !wasTakenOff(db, personId, listId))) {
    return 'left-it-themselves'
  }
  const eventId = appendEvent(db, 'waits-for-offer', at, { personId, offerId, causeId })
  const answers = { firstName: '', zone: null, ip: null, consent: '' }
  const id = known?.id ?? insertWait(db, { offerId, personId, eventId, answers, askedAt: at })
  giveWhatWaitingGives(db, personId, offer, cause)
  countWait(db, { id, offerId }, at)
  return 'waits'
}

/** What of its lists and tags they do not have yet: what taking the click back takes away again. */
export function missingOfWaiting(db: Database, personId: number, offerId: number): { listIds: number[], tagIds: number[] } {
  const waiting = publishedOfferById(db, offerId)?.content.waiting
  return {
    listIds: waiting?.listIds.filter(id => membership(db, id, personId) !== 'joined') ?? [],
    tagIds: waiting?.tagIds.filter(id => !findHolding(db, id, personId)) ?? [],
  }
}

/** The click is taken back. Whoever was told meanwhile has been told. */
export function leaveWaiting(
  db: Database, personId: number, offerId: number, given: { listIds: number[], tagIds: number[] }, cause: Cause & { causeId: number },
): void {
  if (!stopWaiting(db, personId, offerId, cause.at, cause.causeId)) return
  for (const tagId of given.tagIds) takeTag(db, personId, tagId, cause)
  for (const listId of given.listIds) leaveList(db, personId, listId, cause)
}

/** They want it no longer: nothing more is said of its opening. True if they waited, or it was just their turn. */
export function stopWaiting(db: Database, personId: number, offerId: number, at: Instant, causeId: number): boolean {
  if (!endWaits(db, offerId, personId, at)) return false
  withdrawEmails(
    db, personId, { kinds: ofWaiting(), ownerId: offerId }, at, appendEvent(db, 'waits-no-more', at, { personId, offerId, causeId }),
    'waits-no-more',
  )
  checkOpeningAt(db, offerId, at)
  return true
}

/** They have it now. */
export function endWaitOfBuyer(db: Database, personId: number, offerId: number, at: Instant, causeId: number): void {
  if (endWaits(db, offerId, personId, at)) withdrawEmails(db, personId, { kinds: ofWaiting(), ownerId: offerId }, at, causeId, 'owns-it')
}
