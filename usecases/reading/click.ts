/** A tracked link is followed, and later settled. */
import { JUDGING_WINDOW, judgeClick } from '#core/reading/judge'
import { write } from '#data/connection'
import { linksOfMessage } from '#data/messages'
import { appendEvent } from '#data/events'
import { findEmail } from '#data/outbox'
import type { ClickRow } from '#data/reading'
import { clicksOfEmail, findClick, insertClick, insertOpen, settleClick } from '#data/reading'
import type { House } from '../house'
import { aboutEmail } from '../inner/aboutEmail'
import { giveTag } from '../inner/marks'
import { NotThere } from '../problem'
import type { Visit } from './open'

/** Where the `n`-th link of this email goes. Only an address that was in the email is ever given. */
export function destinationOf(house: House, outboxId: number, linkN: number): string {
  const email = findEmail(house.db, outboxId)
  const link = email && linksOfMessage(house.db, email.messageId).find(({ n }) => n === linkN)
  if (!link) throw new NotThere('This link is not known any more.')
  return link.url
}

/** Keeps the click. Its consequences come after the judging window, dated at the click. */
export function recordClick(house: House, outboxId: number, linkN: number, visit: Visit): void {
  const { db } = house
  write(db, () => {
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
  write(house.db, () => {
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
  const about = { ...aboutEmail(email), linkN: click.linkN, detail: judged }
  const eventId = appendEvent(db, 'clicked', click.at, about)
  settleClick(db, click, personId, judged, eventId)
  if (judged !== 'reader') return
  // Who clicked has read it, also where pictures are switched off.
  if (email.openedAt === null) insertOpen(db, { outboxId: email.id, personId, at: click.at, judged: 'reader', eventId })
  const link = linksOfMessage(db, email.messageId).find(({ n }) => n === click.linkN)
  if (link?.tagId) giveTag(db, personId, link.tagId, { at: click.at, causeId: eventId, ownAct: true })
}
