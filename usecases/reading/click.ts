/** A tracked link is followed, and later settled. */
import { withUtm } from '#core/message/utm'
import { JUDGING_WINDOW, judgeClick } from '#core/reading/judge'
import { slugAt } from '#core/page/address'
import { DAY } from '#core/time/zone'
import { linksOfMessage, messageOf, type LinkUse } from '#data/messages'
import { appendEvent } from '#data/events'
import { findLink, linkActsOf, linkActsSince } from '#data/links'
import { findEmail, type OutboxRow } from '#data/outbox'
import { findPageBySlug } from '#data/pages'
import { nameIsTheirs } from '#data/people'
import type { ClickRow } from '#data/reading'
import { clicksOfEmail, findClick, insertClick, insertOpen, settleClick } from '#data/reading'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { aboutEmail } from '../inner/aboutEmail'
import { doFollowed, undoFollowed } from '../inner/actions/followed'
import { followedIn, reactToClick, reactToOpen } from '../inner/actions/reactions'
import { NotThere } from '../problem'
import type { Visit } from './open'

/** For so long a reader can take back what following a link brought. */
export const TAKE_BACK_DAYS = 30

function useOf(context: WorkspaceContext, outboxId: number, linkN: number): { email: OutboxRow, use: LinkUse } {
  const email = findEmail(context.db, outboxId)
  const use = email && linksOfMessage(context.db, email.messageId).find(({ n }) => n === linkN)
  if (!use) throw new NotThere('This link no longer works.')
  return { email: email!, use }
}

/** Where the `n`-th link of this email goes by now. Only to what was in the email, or to what its owner has put in that place since. */
export function destinationOf(context: WorkspaceContext, outboxId: number, linkN: number): string {
  const { email, use } = useOf(context, outboxId, linkN)
  return withUtm(findLink(context.db, use.linkId)!.url, messageOf(context.db, email.messageId).utm)
}

/** Whether it is an answer to a question: then it leads to a page of ours. */
export const isAnswer = (context: WorkspaceContext, outboxId: number, linkN: number): boolean =>
  useOf(context, outboxId, linkN).use.answers !== null

/** Whether what following it brings waits for a second press, on a page of ours. */
export function asksFirst(context: WorkspaceContext, outboxId: number, linkN: number): boolean {
  const { use } = useOf(context, outboxId, linkN)
  const link = findLink(context.db, use.linkId)!
  return (use.asks || link.asks) && use.does.length + link.does.length > 0
}

/** Keeps the click. Its consequences come after the judging window, dated at the click. */
export function recordClick(context: WorkspaceContext, outboxId: number, linkN: number, visit: Visit): void {
  const { db } = context
  transact(context, () => {
    const email = findEmail(db, outboxId)
    if (!email?.handedOverAt) return
    const at = context.clock.now()
    const id = insertClick(db, { outboxId, linkN, at, suspect: visit.robot ? 1 : 0, settleAt: visit.certain ? at : at + JUDGING_WINDOW })
    if (visit.certain) settle(context, findClick(db, id)!, 'reader')
  })
  context.wake()
}

/** A click of which it is known now that a person made it. Nothing for one that was judged before. */
export const settleAsReader = (context: WorkspaceContext, click: ClickRow): void => settle(context, click, 'reader')

/** Judges a click whose window is over and lets its consequences follow. */
export function settleDueClick(context: WorkspaceContext, click: ClickRow): void {
  transact(context, () => {
    const email = findEmail(context.db, click.outboxId)!
    const others = clicksOfEmail(context.db, click.outboxId).filter(other => other.id !== click.id)
    settle(
      context, click,
      judgeClick(click, others, click.suspect === 1, email.handedOverAt!, linksOfMessage(context.db, email.messageId).length),
    )
  })
}

function settle(context: WorkspaceContext, click: ClickRow, judged: 'reader' | 'scanner'): void {
  const { db } = context
  if (findClick(db, click.id)?.judged !== null) return
  const { email, use } = useOf(context, click.outboxId, click.linkN)
  const { personId } = email
  const link = findLink(db, use.linkId)!
  const eventId = appendEvent(db, 'clicked', click.at, {
    ...aboutEmail(email), stepId: email.itemId, linkN: click.linkN, linkId: use.linkId, detail: judged,
  })
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
  const slug = slugAt(link.url, context.baseUrl, 'p')
  const page = slug === null ? undefined : findPageBySlug(db, slug)
  if (page) appendEvent(db, 'visited-page', click.at, { personId, outboxId: email.id, pageId: page.id, causeId: eventId, detail: 'reader' })
  if (!use.asks && !link.asks) {
    doFollowed(db, {
      personId, linkId: link.id, label: use.label, does: [...use.does, ...link.does], isAnswer: use.answers !== null,
    }, { at: click.at, eventId })
  }
}

/**
 * The second press, on our own page: no machine presses there. What following brings comes now, once. Returns the event of the click.
 * `isNew`: whatever was clicked before, this is a press of its own.
 */
export function confirmClick(context: WorkspaceContext, outboxId: number, linkN: number, isNew = false): number {
  const { db } = context
  const eventId = transact(context, () => {
    const { email, use } = useOf(context, outboxId, linkN)
    const at = context.clock.now()
    const click = isNew ? undefined : clicksOfEmail(db, outboxId).filter(one => one.linkN === linkN && one.judged !== 'scanner').at(-1)
    const id = click?.id ?? insertClick(db, { outboxId, linkN, at, suspect: 0, settleAt: at })
    settle(context, findClick(db, id)!, 'reader')
    const { eventId } = findClick(db, id)!
    const link = findLink(db, use.linkId)!
    doFollowed(
      db, { personId: email.personId, linkId: link.id, label: use.label, does: [...use.does, ...link.does] }, { at, eventId: eventId! },
    )
    return eventId!
  })
  context.wake()
  return eventId
}

export interface Followed { eventId: number, label: string, at: number }

/** What a reader followed lately that brought something, and may be taken back: by any email of theirs. */
export function followedBy(context: WorkspaceContext, personId: number): Followed[] {
  return linkActsSince(
    context.db, personId, context.clock.now() - TAKE_BACK_DAYS * DAY,
  ).map(({ eventId, label, at }) => ({ eventId, label, at }))
}

/** Takes back what following a link brought; only their own, and only for a while. */
export function takeBackFollowed(context: WorkspaceContext, personId: number, eventId: number): void {
  const { db } = context
  transact(context, () => {
    if (!followedBy(context, personId).some(one => one.eventId === eventId)) throw new NotThere('There is nothing left to undo.')
    undoFollowed(db, linkActsOf(db, eventId)!, context.clock.now())
  })
  context.wake()
}

/** For the page of the second press: what it is about, and how it stands. */
export function askedFirst(
  context: WorkspaceContext, outboxId: number, linkN: number,
): { label: string, url: string, personId: number, done: Followed | null } {
  const { email, use } = useOf(context, outboxId, linkN)
  return {
    label: use.label, url: destinationOf(context, outboxId, linkN), personId: email.personId,
    done: followedBy(context, email.personId).find(({ label }) => label === use.label) ?? null,
  }
}
