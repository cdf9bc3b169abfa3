/** What offers ask for. */
import { standingOf } from '#core/offers/offer'
import { sayStanding } from '#core/offers/say'
import { sayLength, sayMoment } from '#core/time/say'
import { DAY, type Instant } from '#core/time/zone'
import type { Notice } from '#core/views/today'
import { allOffers, type OfferRow } from '#data/offers'
import { placesTaken, unmatchedPaymentEvents } from '#data/purchases'
import { salesTrouble } from '#data/sales'
import { workspaceOf } from '#data/workspace'
import type { WorkspaceContext } from '../context'
import { waitingView } from '../views/openings'
import { inSight } from './inSight'
import { sayNumber, saySome } from '#core/stats/say'

export function offerNotices(context: WorkspaceContext, now: Instant): Notice[] {
  const { db } = context
  const list: Notice[] = []
  const { disputed, refused } = salesTrouble(db)
  for (const { offerId, name, n } of disputed) list.push({
    tone: 'trouble', title: `${saySome(n, 'buyer disputes their payment', 'buyers dispute their payments')}`,
    text: `${name}: refund it, or answer the bank.`, to: `/offers/${offerId}/sales?days=730&state=disputed`,
    action: 'Answer the bank',
  })
  for (const { offerId, name, n } of refused) list.push({
    tone: 'plain', title: `${saySome(n, 'payment was', 'payments were')} refused`,
    text: `${name}: they keep what they have until you end it.`, to: `/offers/${offerId}/sales?days=730&state=refused`,
    action: 'See the payments',
  })
  const unmatched = unmatchedPaymentEvents(db, 100).length
  if (unmatched > 0) list.push({
    tone: 'trouble', title: `${saySome(unmatched, 'thing was', 'things were')} reported payments were not counted`,
    text: 'Each one says why.',
    to: '/offers', action: 'See the payments',
  })
  const { zone } = workspaceOf(db)
  for (const offer of inSight(db, 'offer', allOffers(db))) {
    const to = `/offers/${offer.id}`
    list.push(...waitingNotice(context, offer, now))
    if (!offer.published) {
      list.push({ tone: 'plain', title: `${offer.name} is not published`, text: 'Nobody can buy it yet.', to, action: 'Finish the offer' })
      continue
    }
    if (context.checkout === null) list.push({
      tone: 'trouble', title: `${offer.name} cannot be paid for`, text: 'Set the payment service in Settings.', to: '/settings',
      action: 'Set up payments',
    })
    const { places, closesAt } = offer.published
    const { sold, held } = placesTaken(db, offer.id, now)
    const taken = sold + held
    if (places !== null && taken > places) list.push({
      tone: 'trouble', title: `${offer.name} has sold too many places`,
      text: `${saySome(taken, 'place is', 'places are')} taken of ${sayNumber(places)}. Make room, or refund.`, to,
      action: 'Make room',
    })
    if (closesAt !== null && closesAt > now && closesAt <= now + 3 * DAY) list.push({
      tone: 'plain', title: `${offer.name} closes soon`, text: `${sayMoment(closesAt, zone)}, in ${sayLength(closesAt - now)}.`, to,
      action: 'Check the offer', by: closesAt,
    })
  }
  return list
}

/** Who waits, and when they hear of it; or what keeps them from it. */
function waitingNotice({ db }: WorkspaceContext, { id, name, published, draft }: OfferRow, now: Instant): Notice[] {
  const waiting = waitingView(db, id, now)
  if (!waiting || waiting.people === 0) return []
  const { zone } = workspaceOf(db)
  const [first] = waiting.ahead.bits
  const people = saySome(waiting.people, 'person waits', 'people wait')
  const notice = (tone: Notice['tone'], text: string): Notice[] =>
    [{
      tone, title: `${people} for ${name}`, text, to: `/offers/${id}?part=waiting`, action: 'See the waiting list',
      people: { count: waiting.people, to: `/offers/${id}?part=waiting` },
    }]
  if (!published) return notice('trouble', 'It is not published, so nobody gets the email or can buy it.')
  if (!waiting.canTell) return notice('trouble', draft.waiting
    ? 'The email that tells them is not published. Publish it again.'
    : 'Its waiting list is off, so nobody gets the email.')
  if (!first) return notice('plain', `${sayStanding(standingOf(published, now, placesTaken(db, id, now)), zone)}. No opening is planned.`)
  const unheard = waiting.ahead.unheard === 0
    ? ''
    : ` As it is now, ${saySome(waiting.ahead.unheard, 'person does', 'people do')} not get a turn.`
  const many = waiting.ahead.bits.length === 1 ? '' : `, the first ${first.people} of them, then one group after the other`
  return notice('plain', `Their email goes out ${sayMoment(first.at, zone)}${many}.${unheard}`)
}
