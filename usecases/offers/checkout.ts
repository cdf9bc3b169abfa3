/** Somebody presses the button of an offer's page and goes to pay. */
import { couponProblem, pricesWith, type Coupon } from '#core/offers/coupon'
import { HELD_FOR, MOST_HELD, standingOf } from '#core/offers/offer'
import { sayCut, sayStanding } from '#core/offers/say'
import { CheckoutProblem, type OrderToPay } from '#core/ports'
import { NO_TOUCH } from '#core/page/touch'
import { HOUR, type Instant } from '#core/time/zone'
import type { Database } from '#data/connection'
import { appendEvent } from '#data/events'
import { couponByCode, findOfferVersion, type PublishedOffer } from '#data/offers'
import { findPersonByKey } from '#data/people'
import {
  checkoutsToAbandon, couponUses, endCheckout, findCheckout, heldFrom, insertCheckout, placesTaken, replaceCheckouts,
} from '#data/purchases'
import { touchIdOf } from '#data/sources'
import { workspaceOf } from '#data/workspace'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { InputProblem, NotNow } from '../problem'
import { personFor, publishedOffer, readWho, type Pressed } from './visitor'

/**
 * Judged at one instant, with places and uses counted in the same immediate
 * transaction: of many who press at once only so many go on as there are
 * places. What is pressed for is held for ten minutes. Nobody is mailed for
 * having gone to pay; who is new stays `pending` until they have paid. Throws
 * an {@link InputProblem} for bad fields, and {@link NotNow} if it cannot be bought now.
 */
export async function startCheckout(context: WorkspaceContext, typed: Pressed): Promise<{ url: string }> {
  const { db, checkout } = context
  if (!checkout) throw new NotNow('Payments are not possible right now. Please come back a little later.')
  const order = transact(context, () => keepOrder(context, typed))
  context.wake()
  try {
    return await checkout.open(order)
  }
  catch (error) {
    // It was not theirs to pay: nothing is kept for them, and they have given nothing up.
    transact(context, () => replaceCheckouts(db, findCheckout(db, order.order)!, context.clock.now()))
    if (error instanceof CheckoutProblem) throw new NotNow(
      'The payment service cannot be reached right now. Nothing was bought. Please try again a little later.',
    )
    throw error
  }
}

function keepOrder(context: WorkspaceContext, typed: Pressed): OrderToPay {
  const { db, signer, baseUrl } = context
  const offer = publishedOffer(db, typed.slug)
  const at = context.clock.now()
  const { content } = offer
  const { zone } = workspaceOf(db)
  const standing = standingOf(content, at, placesTaken(db, offer.id, at))
  if (standing.is !== 'open') throw new NotNow(`${sayStanding(standing, zone)}. Nothing was bought.`)
  const who = readWho(context, typed, content.form.firstName)
  const { coupon, problem } = readCode(db, offer, typed.code, at)
  if (problem) who.problems.push({ field: 'code', problem })
  if (!who.ok || who.problems.length > 0) throw new InputProblem(who.problems)

  const origin = typed.origin ? signer.digest(`origin ${typed.origin}`) : null
  const holds = content.places !== null || (coupon?.uses ?? null) !== null
  if (holds && origin !== null && heldFrom(db, {
    offerId: offer.id, origin, personId: findPersonByKey(db, who.address.key)?.id ?? null,
  }, at) >= MOST_HELD) {
    throw new NotNow('Several checkouts are open from your network. Finish one, or try again in ten minutes.')
  }
  const { personId, person } = personFor(context, who, `offer:${offer.slug}`, at)
  replaceCheckouts(db, { personId, offerId: offer.id }, at)
  const prices = pricesWith(content.price, coupon)
  const eventId = appendEvent(db, 'checkout-started', at, {
    personId, offerId: offer.id,
  }, { address: person.address, ...typed.ip && { ip: typed.ip } })
  const keepsUntilAt = at + HELD_FOR
  const orderKey = `o${eventId}-${signer.digest(`order ${eventId}`).slice(0, 16)}`
  insertCheckout(db, {
    orderKey, offerId: offer.id, offerVersionId: offer.versionId, personId, couponId: coupon?.id ?? null, firstPrice: prices.first,
    laterPrice: prices.later, touchId: touchIdOf(db, typed.touch ?? NO_TOUCH),
    answers: {
      firstName: who.firstName, zone: who.zone, ip: typed.ip, consent: content.form.consentWording,
    }, origin, startedAt: at, keepsUntilAt, abandonedDueAt: at + content.abandonedAfterHours * HOUR, eventId,
  })
  return {
    order: orderKey, title: offer.name,
    lines: [
      { words: offer.name, amount: content.price.amount },
      ...coupon ? [{ words: `${coupon.code}: ${sayCut(coupon, content.price)}`, amount: prices.first.amount - content.price.amount }] : [],
    ],
    firstPrice: prices.first, laterPrice: prices.later, email: person.address, firstName: who.firstName, zone, until: keepsUntilAt,
    doneUrl: `${baseUrl}/s/${offer.slug}/thanks`, backUrl: `${baseUrl}/s/${offer.slug}`,
  }
}

/** What a code comes to now: nothing typed is no coupon and no problem. */
export function readCode(
  db: Database, offer: Pick<PublishedOffer, 'id' | 'content'>, code: string, now: Instant,
): { coupon: Coupon | null, problem: string | null } {
  if (code.trim() === '') return { coupon: null, problem: null }
  const coupon = couponByCode(db, offer.id, code)
  const problem = couponProblem(coupon, {
    offerId: offer.id, currency: offer.content.price.currency, now, used: coupon ? couponUses(db, coupon.id, now) : 0,
  })
  return { coupon: problem === null ? coupon! : null, problem }
}

/** Who has gone to pay and did not within the offer's hours has given it up. Returns how many. */
export function abandonDueCheckouts(context: WorkspaceContext, at: Instant): number {
  const { db } = context
  return transact(context, () => {
    const rows = checkoutsToAbandon(db, at, 200)
    for (const row of rows) {
      endCheckout(db, row.id, 'abandoned')
      appendEvent(db, 'checkout-abandoned', row.abandonedDueAt!, { personId: row.personId, offerId: row.offerId, causeId: row.eventId })
    }
    return rows.length
  })
}

export const offerOfCheckout = (db: Database, versionId: number): PublishedOffer => findOfferVersion(db, versionId)!
