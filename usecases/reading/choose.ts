/** Answers to a question in an email: what a reader chose, and choosing otherwise on a page of ours. */
import { DAY } from '#core/time/zone'
import { linksOfMessage, type LinkUse } from '#data/messages'
import { findEmail, type OutboxRow } from '#data/outbox'
import { clicksOfEmail, findClick, type ClickRow } from '#data/reading'
import { linkActsOf, linkActsSince } from '#data/links'
import type { WorkspaceContext } from '../context'
import { undoAnswers } from '../inner/actions/followed'
import { transact } from '../inner/reactor/transaction'
import { NotThere } from '../problem'
import { confirmClick, settleAsReader, TAKE_BACK_DAYS } from './click'

export interface ChosenView { personId: number, says: string, answers: { n: number, label: string, isChosen: boolean }[] }

function questionOf(context: WorkspaceContext, outboxId: number, linkN: number): { email: OutboxRow, use: LinkUse, answers: LinkUse[] } {
  const email = findEmail(context.db, outboxId)
  const links = email ? linksOfMessage(context.db, email.messageId) : []
  const use = links.find(({ n }) => n === linkN)
  if (!email || !use?.answers) throw new NotThere('This link no longer works.')
  return { email, use, answers: links.filter(({ answers }) => answers?.question === use.answers!.question) }
}

/** Clicks on the answers that count or may come to, the oldest first. */
const clicksOn = (context: WorkspaceContext, outboxId: number, answers: readonly LinkUse[]): ClickRow[] =>
  clicksOfEmail(context.db, outboxId).filter(({ linkN, judged }) => judged !== 'scanner' && answers.some(({ n }) => n === linkN))
  .sort((a, b) => a.at - b.at || a.id - b.id)

/** What holds now: the last that was chosen, or all of them where several can be; not what was taken back. */
export function chosenView(context: WorkspaceContext, outboxId: number, linkN: number): ChosenView {
  const { email, use, answers } = questionOf(context, outboxId, linkN)
  const taken = (click: ClickRow) => click.eventId !== null && isTakenBack(context, email.personId, click.eventId)
  const held = clicksOn(context, outboxId, answers).filter(click => !taken(click)).map(click => click.linkN)
  const onlyOne = answers.some(one => one.answers!.takes.length > 0)
  const chosen = onlyOne ? held.slice(-1) : held
  return {
    personId: email.personId, says: use.answers!.says,
    answers: answers.map(({ n, label }) => ({ n, label, isChosen: chosen.includes(n) })),
  }
}

/** Nothing is left of what the click brought. */
const isTakenBack = ({ db, clock }: WorkspaceContext, personId: number, eventId: number): boolean =>
  linkActsOf(db, eventId) !== undefined
  && !linkActsSince(db, personId, clock.now() - TAKE_BACK_DAYS * DAY).some(one => one.eventId === eventId)

/**
 * A press on our own page: no machine presses there. What was chosen before counts as chosen first, so that what is chosen now comes after
 * it. Null takes back what was chosen.
 */
export function chooseAgain(context: WorkspaceContext, outboxId: number, linkN: number, chosen: number | null): void {
  const { db, clock } = context
  transact(context, () => {
    const { email, answers } = questionOf(context, outboxId, linkN)
    if (chosen !== null && !answers.some(({ n }) => n === chosen)) throw new NotThere('This is none of the answers.')
    const before = clicksOn(context, outboxId, answers)
    for (const { id } of before) settleAsReader(context, findClick(db, id)!)
    if (chosen !== null) {
      // Chosen once more after it was taken back, or after another: it is a new press.
      confirmClick(context, outboxId, chosen, true)
      return
    }
    const events = new Set(before.map(({ id }) => findClick(db, id)!.eventId))
    const lately = linkActsSince(db, email.personId, clock.now() - TAKE_BACK_DAYS * DAY).filter(({ eventId }) => events.has(eventId))
    undoAnswers(db, lately.sort((a, b) => a.at - b.at || a.eventId - b.eventId), clock.now())
  })
  context.wake()
}
