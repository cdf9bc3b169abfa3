/** An offer can be bought: those who wait for it are told, in bits where places are few. */
import { opensNext, turnsToGive } from '#core/offers/opening'
import { standingOf } from '#core/offers/offer'
import { HOUR, type Instant } from '#core/time/zone'
import { occasionOf } from '#core/sending/occasion'
import { pauseOf } from '#data/choices'
import type { Database } from '#data/connection'
import { appendEvent } from '#data/events'
import { membership } from '#data/marks'
import { publishedOfferById, type PublishedOffer } from '#data/offers'
import { insertEmail } from '#data/outbox'
import { statusOf } from '#data/people'
import { placesTaken } from '#data/purchases'
import { countWaiting, markTold, nextInLine, offersToOpen, setOpeningDue, turnEnds, type WaitRow } from '#data/waits'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { openingOf } from '../inner/facts/waits'
import { listOfMail } from '../inner/purchased'

/** Few enough that a sign-up hardly waits. */
const BATCH = 200

/**
 * Returns how many offers were looked at. Judged as things stand at this moment: after an outage nobody is told of what has closed
 * meanwhile.
 */
export function tellWhoWaits(context: WorkspaceContext, at: Instant): number {
  const { db } = context
  return transact(context, () => {
    const offers = offersToOpen(db, at)
    for (const id of offers) setOpeningDue(db, id, tellSome(db, id, context.clock.now()))
    return offers.length
  })
}

/** Tells as many as may hear of it now; the next time to look, null where only something that happens can change it. */
function tellSome(db: Database, offerId: number, now: Instant): Instant | null {
  const offer = publishedOfferById(db, offerId)
  const waiting = countWaiting(db, offerId)
  if (!offer?.content.waiting || offer.openingMessageId === null || waiting === 0) return null
  const taken = placesTaken(db, offerId, now)
  const standing = standingOf(offer.content, now, taken)
  if (standing.is !== 'open') return opensNext(standing)
  const people = turnsToGive(standing.left, turnEnds(db, offerId, now).length, waiting)
  for (const row of nextInLine(db, offerId, Math.min(BATCH, people))) tellOne(db, offer, row, now, standing.left !== null)
  if (people > BATCH) return now
  if (people === waiting) return null
  const ends = turnEnds(db, offerId, now)
  // Whom no mail reaches has no turn: the place goes to the next.
  return turnsToGive(standing.left, ends.length, waiting - people) > 0 ? now : earliest(ends[0] ?? null, taken.freeAt, standing.until)
}

function tellOne(db: Database, offer: PublishedOffer, { id, personId }: WaitRow, now: Instant, placesAreFew: boolean): void {
  const { listIds, turnHours } = offer.content.waiting!
  const listId = listOfMail(db, listIds)
  const causeId = appendEvent(db, 'opening-told', now, { personId, offerId: offer.id })
  // Whoever cannot be mailed is told nothing, by the last look and with its reason.
  const takesTurn = placesAreFew && isReached(db, personId, listId)
  markTold(db, id, now, takesTurn ? now + turnHours * HOUR : null)
  insertEmail(db, {
    ...openingOf(offer.id), personId, occasion: occasionOf(id), messageId: offer.openingMessageId!,
    listId, askedFor: 1, causeId, plannedAt: now,
  })
}

const isReached = (db: Database, personId: number, listId: number): boolean =>
  statusOf(db, personId) === 'active' && membership(db, listId, personId) === 'joined' && pauseOf(db, personId) === null

const earliest = (...instants: (Instant | null)[]): Instant | null =>
  instants.reduce((first, at) => at === null || (first !== null && first <= at) ? first : at, null)
