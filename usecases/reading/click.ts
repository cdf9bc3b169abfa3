/** A tracked link is followed, and later settled. */
import { JUDGING_WINDOW, judgeClick } from '#core/reading/judge'
import { linksOfMessage } from '#data/messages'
import { appendEvent } from '#data/events'
import { findLink } from '#data/links'
import { findEmail } from '#data/outbox'
import type { ClickRow } from '#data/reading'
import { clicksOfEmail, findClick, insertClick, insertOpen, settleClick } from '#data/reading'
import type { House } from '../house'
import { write } from '../inner/transaction'
import { aboutEmail } from '../inner/aboutEmail'
import { doAction } from '../inner/actions'
import { NotThere } from '../problem'
import type { Visit } from './open'

/** Where the `n`-th link of this email goes. Only an address that was in the email is ever given. */
export function destinationOf(house: House, outboxId: number, linkN: number): string {
  const email = findEmail(house.db, outboxId)
  const link = email && linksOfMessage(house.db, email.messageId).find(({ n }) => n === linkN)
  if (!link) throw new NotThere('This link is not known any more.')
  return findLink(house.db, link.linkId)!.url
}

/** Keeps the click. Its consequences come after the judging window, dated at the click. */
export function recordClick(house: House, outboxId: number, linkN: number, visit: Visit): void {
  const { db } = house
  write(house, () => {
    const email = findEmail(db, outboxId)
    if (!email?.handedOverAt) return
    const at = house.clock.now()
    const id = insertClick(db, { outboxId, linkN, at, suspect: visit.robot ? 1 : 0, settleAt: visit.certain ? at : at + JUDGING_WINDOW })
    if (visit.certain) settle(house, findClick(db, id)!, 'reader')
  })
  house.wake()
}

/** Judges a click whose window is over and lets its consequences follow. */
export function settleDueClick(house: House, click: ClickRow): void {
  write(house, () => {
    const email = findEmail(house.db, click.outboxId)!
    const others = clicksOfEmail(house.db, click.outboxId).filter(other => other.id !== click.id)
    settle(house, click, judgeClick(click, others, click.suspect === 1, email.handedOverAt!))
  })
}

function settle(house: House, click: ClickRow, judged: 'reader' | 'scanner'): void {
  const { db } = house
  if (findClick(db, click.id)?.judged !== null) return
  const email = findEmail(db, click.outboxId)!
  const { personId } = email
  const link = linksOfMessage(db, email.messageId).find(({ n }) => n === click.linkN)
  const about = { ...aboutEmail(email), stepId: email.stepId, linkN: click.linkN, ...link && { linkId: link.linkId }, detail: judged }
  const eventId = appendEvent(db, 'clicked', click.at, about)
  settleClick(db, click, personId, judged, eventId)
  if (judged !== 'reader') return
  // Who clicked has read it, also where pictures are switched off.
  if (email.openedAt === null) insertOpen(db, { outboxId: email.id, personId, at: click.at, judged: 'reader', eventId })
  for (const action of link ? [...link.does, ...findLink(db, link.linkId)!.does] : []) doAction(db, personId, action, { at: click.at, causeId: eventId, ruleId: null })
}
