/** Somebody wants to hear when an offer can be bought, and says yes to it by email. */
import { standingOf } from '#core/offers/offer'
import { confirmUntil } from '#core/offers/waiting'
import { MOST_REQUESTS_A_DAY, SAME_AGAIN_AFTER } from '#core/page/confirm'
import { DAY, type Instant } from '#core/time/zone'
import { occasionOf } from '#core/sending/occasion'
import type { Database } from '#data/connection'
import { insertConsent } from '#data/consents'
import { appendEvent } from '#data/events'
import { publishedOfferById, type PublishedOffer } from '#data/offers'
import { insertEmail, plannedSince } from '#data/outbox'
import { findPerson } from '#data/people'
import { placesTaken } from '#data/purchases'
import { findWait, insertWait, markWaitMailed, openWait, renewWait, type WaitRow } from '#data/waits'
import type { WorkspaceContext } from '../context'
import { wouldUndo } from '../inner/actions/gives'
import { changeStatus } from '../inner/facts/marks'
import { endPause } from '../inner/facts/pauses'
import { keepWhatTheyTyped } from '../inner/facts/typed'
import { transact } from '../inner/reactor/transaction'
import { countWait, giveWhatWaitingGives, waitRequestOf } from '../inner/facts/waits'
import { listOfMail, originOf } from '../inner/purchased'
import { InputProblem, NotNow, NotThere } from '../problem'
import { personFor, publishedOffer, readWho, type Pressed } from './visitor'

/**
 * Keeps that they wait, or asks them to confirm it first. `asks`: what they are told is the same for everybody who comes to this page,
 * known or not; whoever has left, paused or bounced is asked by email all the same, and nothing of that is undone before they say yes.
 * Throws an {@link InputProblem} for bad fields, and {@link NotNow} if it can be bought.
 */
export function waitForOffer(context: WorkspaceContext, typed: Pressed): { asks: boolean } {
  const { db } = context
  const asks = transact(context, () => {
    const offer = publishedOffer(db, typed.slug)
    const { waiting } = offer.content
    const at = context.clock.now()
    if (!waiting || standingOf(offer.content, at, placesTaken(db, offer.id, at)).is === 'open') {
      throw new NotNow('You can buy this now, so there is no waiting list.')
    }
    const who = readWho(context, typed, offer.content.form.firstName)
    if (!who.ok) throw new InputProblem(who.problems)
    const { personId, person } = personFor(context, who, `offer:${offer.slug}`, at)
    const known = openWait(db, offer.id, personId)
    const mustAsk = waiting.asks || wouldUndo(db, findPerson(db, personId)!, waiting.listIds)
    const eventId = appendEvent(db, 'waits-for-offer', at, { personId, offerId: offer.id, ...mustAsk && { detail: 'asked' } }, {
      address: person.address, ...typed.ip && { ip: typed.ip },
    })
    // Who waits already keeps their place.
    if (known && known.confirmedAt !== null) return waiting.asks
    const answers = { firstName: who.firstName, zone: who.zone, ip: typed.ip, consent: waiting.consentWording }
    const row = { offerId: offer.id, personId, eventId, answers, askedAt: at }
    if (known) renewWait(db, known.id, row)
    const id = known?.id ?? insertWait(db, row)
    if (mustAsk) ask(db, offer, findWait(db, id)!, at)
    else count(db, offer, findWait(db, id)!, at, eventId, 'opted-in')
    return waiting.asks
  })
  context.wake()
  return { asks }
}

/** An email asks, unless one has just gone or very many have; pressing again sends it later. */
function ask(db: Database, offer: PublishedOffer, { id, personId, eventId, mailedAt, mails }: WaitRow, at: Instant): void {
  const justMailed = mailedAt !== null && at - mailedAt < SAME_AGAIN_AFTER
  if (offer.waitConfirmMessageId === null || justMailed || plannedSince(db, personId, 'waiting', at - DAY) >= MOST_REQUESTS_A_DAY) return
  insertEmail(db, {
    ...waitRequestOf(offer.id), personId, occasion: occasionOf(id, mails === 0 ? null : `again-${mails}`),
    messageId: offer.waitConfirmMessageId, listId: listOfMail(db, offer.content.waiting!.listIds), askedFor: 1, causeId: eventId,
    plannedAt: at,
  })
  markWaitMailed(db, id, at)
}

/** They wait from now on: what they agreed to is kept, and what the list gives is given. */
function count(db: Database, offer: PublishedOffer, row: WaitRow, at: Instant, causeId: number, by: 'opted-in' | 'confirmed'): void {
  const { personId, answers } = row
  const cause = { at, causeId, ownAct: true }
  insertConsent(db, {
    personId, eventId: row.eventId, pageVersionId: null, origin: originOf(offer), wording: answers.consent, at: row.askedAt,
    confirmedAt: by === 'confirmed' ? at : null, ip: answers.ip, zone: answers.zone,
  })
  keepWhatTheyTyped(
    db, personId, answers, by === 'confirmed' ? 'confirmed' : findPerson(db, personId)!.status === 'pending' ? 'typed' : 'gaps', cause,
  )
  changeStatus(db, personId, by, cause)
  endPause(db, personId, at, causeId, 'own-choice')
  giveWhatWaitingGives(db, personId, offer, cause)
  countWait(db, row, at)
}

/** What pressing the button of the email comes to. */
export type WaitOutcome = 'counts' | 'waits-already' | 'told-already' | 'too-late' | 'over'

export interface WaitView { outcome: WaitOutcome, offer: Pick<PublishedOffer, 'name' | 'slug' | 'content'> | null, address: string }

/** The wait that a signed address stands for. */
export function readWaitToken(context: WorkspaceContext, token: string): number {
  const what = context.signer.read('wait', token)
  if (what === null) {
    throw new NotThere('This link is not complete. Please use the button in the email itself.')
  }
  return Number(what)
}

/** Looking changes nothing: machines look, too. */
export function waitView(context: WorkspaceContext, id: number): WaitView {
  const { db } = context
  const row = findWait(db, id)
  const person = row && findPerson(db, row.personId)
  const offer = row && publishedOfferById(db, row.offerId)
  if (!row || !person || !offer) return { outcome: 'over', offer: null, address: '' }
  return { outcome: outcomeOf(row, offer, context.clock.now()), offer, address: person.address }
}

/** Exactly at its last moment a yes still counts. */
function outcomeOf(row: WaitRow, offer: PublishedOffer, now: Instant): WaitOutcome {
  if (row.toldAt !== null) return 'told-already'
  if (row.endedAt !== null || !offer.content.waiting) return 'over'
  if (row.confirmedAt !== null) return 'waits-already'
  return now <= confirmUntil(row.askedAt) ? 'counts' : 'too-late'
}

/** Yes, it was them: counts once. Every other outcome changes nothing. */
export function confirmWaiting(context: WorkspaceContext, id: number): WaitOutcome {
  const { db } = context
  const outcome = transact(context, () => {
    const { outcome } = waitView(context, id)
    if (outcome !== 'counts') return outcome
    const row = findWait(db, id)!
    const at = context.clock.now()
    const { personId, offerId } = row
    const causeId = appendEvent(db, 'waits-for-offer', at, { personId, offerId, causeId: row.eventId })
    count(db, publishedOfferById(db, offerId)!, row, at, causeId, 'confirmed')
    return outcome
  })
  context.wake()
  return outcome
}
