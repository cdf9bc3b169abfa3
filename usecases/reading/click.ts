/** A tracked link is followed, and later settled. */
import { JUDGING_WINDOW, judgeClick } from '#core/reading/judge'
import { slugAt } from '#core/page/address'
import { DAY } from '#core/time/zone'
import { linksOfMessage, type LinkUse } from '#data/messages'
import { appendEvent } from '#data/events'
import { findLink, linkActsOf, linkActsSince } from '#data/links'
import { findEmail, type OutboxRow } from '#data/outbox'
import { findPageBySlug } from '#data/pages'
import { nameIsTheirs } from '#data/people'
import type { ClickRow } from '#data/reading'
import { clicksOfEmail, findClick, insertClick, insertOpen, settleClick } from '#data/reading'
import type { House } from '../house'
import { write } from '../inner/transaction'
import { aboutEmail } from '../inner/aboutEmail'
import { doFollowed, undoFollowed } from '../inner/followed'
import { followedIn, reactToClick, reactToOpen } from '../inner/reactions'
import { NotThere } from '../problem'
import type { Visit } from './open'

/** For so long a reader can take back what following a link brought. */
export const TAKE_BACK_DAYS = 30

function useOf(house: House, outboxId: number, linkN: number): { email: OutboxRow, use: LinkUse } {
  const email = findEmail(house.db, outboxId)
  const use = email && linksOfMessage(house.db, email.messageId).find(({ n }) => n === linkN)
  if (!use) throw new NotThere('This link is not known any more.')
  return { email: email!, use }
}

/** Where the `n`-th link of this email goes by now. Only to what was in the email, or to what its owner has put in that place since. */
export const destinationOf = (house: House, outboxId: number, linkN: number): string => findLink(house.db, useOf(house, outboxId, linkN).use.linkId)!.url

/** Whether what following it brings waits for a second press, on a page of ours. */
export function asksFirst(house: House, outboxId: number, linkN: number): boolean {
  const { use } = useOf(house, outboxId, linkN)
  const link = findLink(house.db, use.linkId)!
  return (use.asks || link.asks) && use.does.length + link.does.length > 0
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
    settle(house, click, judgeClick(click, others, click.suspect === 1, email.handedOverAt!, linksOfMessage(house.db, email.messageId).length))
  })
}

function settle(house: House, click: ClickRow, judged: 'reader' | 'scanner'): void {
  const { db } = house
  if (findClick(db, click.id)?.judged !== null) return
  const { email, use } = useOf(house, click.outboxId, click.linkN)
  const { personId } = email
  const link = findLink(db, use.linkId)!
  const eventId = appendEvent(db, 'clicked', click.at, { ...aboutEmail(email), stepId: email.stepId, linkN: click.linkN, linkId: use.linkId, detail: judged })
  const before = followedIn(db, email).map(({ url }) => url)
  settleClick(db, click, personId, judged, eventId)
  if (judged !== 'reader') return
  nameIsTheirs(db, personId)
  // Who clicked has read it, also where pictures are switched off.
  if (email.openedAt === null) {
    insertOpen(db, { outboxId: email.id, personId, at: click.at, judged: 'reader', eventId })
    reactToOpen(db, email, click.at, eventId)
  }
  reactToClick(db, email, use.url, before, click.at, eventId)
  const slug = slugAt(link.url, house.baseUrl, 'p')
  const page = slug === null ? undefined : findPageBySlug(db, slug)
  if (page) appendEvent(db, 'visited-page', click.at, { personId, outboxId: email.id, pageId: page.id, causeId: eventId, detail: 'reader' })
  if (!use.asks && !link.asks) doFollowed(db, { personId, linkId: link.id, label: use.label, does: [...use.does, ...link.does] }, { at: click.at, eventId })
}

/** The second press, on our own page: no machine presses there. What following brings comes now, once. Returns the event of the click. */
export function confirmClick(house: House, outboxId: number, linkN: number): number {
  const { db } = house
  const eventId = write(house, () => {
    const { email, use } = useOf(house, outboxId, linkN)
    const at = house.clock.now()
    const click = clicksOfEmail(db, outboxId).filter(one => one.linkN === linkN && one.judged !== 'scanner').at(-1)
    const id = click?.id ?? insertClick(db, { outboxId, linkN, at, suspect: 0, settleAt: at })
    settle(house, findClick(db, id)!, 'reader')
    const { eventId } = findClick(db, id)!
    const link = findLink(db, use.linkId)!
    doFollowed(db, { personId: email.personId, linkId: link.id, label: use.label, does: [...use.does, ...link.does] }, { at, eventId: eventId! })
    return eventId!
  })
  house.wake()
  return eventId
}

export interface Followed { eventId: number, label: string, at: number }

/** What a reader followed lately that brought something, and may be taken back: by any email of theirs. */
export function followedBy(house: House, personId: number): Followed[] {
  return linkActsSince(house.db, personId, house.clock.now() - TAKE_BACK_DAYS * DAY).map(({ eventId, label, at }) => ({ eventId, label, at }))
}

/** Takes back what following a link brought; only their own, and only for a while. */
export function takeBackFollowed(house: House, personId: number, eventId: number): void {
  const { db } = house
  write(house, () => {
    if (!followedBy(house, personId).some(one => one.eventId === eventId)) throw new NotThere('There is nothing to take back any more.')
    undoFollowed(db, linkActsOf(db, eventId)!, house.clock.now())
  })
  house.wake()
}

/** For the page of the second press: what it is about, and how it stands. */
export function askedFirst(house: House, outboxId: number, linkN: number): { label: string, url: string, personId: number, done: Followed | null } {
  const { email, use } = useOf(house, outboxId, linkN)
  return { label: use.label, url: destinationOf(house, outboxId, linkN), personId: email.personId, done: followedBy(house, email.personId).find(({ label }) => label === use.label) ?? null }
}
