/** What came of handing an email over, written down. */
import type { HandOver } from '#core/ports'
import { GIVE_UP_AFTER, MOST_REPEATS, waitAfter } from '#core/sending/retry'
import { verdictOf, type Refusal, type Verdict } from '#core/sending/verdict'
import { addsUp } from '#core/sending/wave'
import { kindOf } from '#core/sending/kinds'
import { domainOf } from '#core/message/headers'
import { DAY, SECOND, type Instant } from '#core/time/zone'
import { insertAnswer, setUnreachable, softRefusals, unreachableSince, waveRule } from '#data/carrier'
import { appendEvent } from '#data/events'
import { linksOfMessage } from '#data/messages'
import { markNoticesMailed } from '#data/notices'
import {
  findEmail, findInOutbox, isOwnerMail, markFailed, markHandedOver, markMayHaveArrived, queueRepeat, type OutboxRow, type OwnerMail,
} from '#data/outbox'
import { setAside } from '#data/outboxAside'
import { findPerson } from '#data/people'
import { insertReaderAct, keennessOf } from '#data/reading'
import { setSenderStopped } from '#data/senders'
import { pauseCarrier, stopCarrier, workspaceOf } from '#data/workspace'
import type { EngineContext } from '../context'
import { aboutAttempt } from '../inner/aboutEmail'
import { standingNow } from '../inner/actions/asBefore'
import { withdrawConfirmationRequests } from '../inner/facts/confirmationRequests'
import { changeStatus } from '../inner/facts/marks'
import { reactToSending } from '../inner/actions/reactions'
import { transact } from '../inner/reactor/transaction'
import { slowDown, wentWell } from './pace'
import { domainAccepts, domainPutsOff } from './turn'
import { findWave } from './waves'

/** How long nothing is tried after the mail server could not be reached. */
const CARRIER_PAUSE = 30 * SECOND

/** `ownService`: the sender whose own mail service said it; what it refuses stops nobody else. */
export function settle(context: EngineContext, row: OutboxRow | OwnerMail, answer: HandOver, ownService: number | null = null): void {
  transact(context, () => {
    const at = context.clock.now()
    if (answer.kind === 'accepted') accepted(context, row, at)
    else if (answer.kind === 'unreachable') unreachable(context, row, answer.text, at)
    else refused(context, row, { verdict: verdictOf(answer.answer), text: answer.answer.text, ownService }, at)
  })
}

/** Only the mark: where what follows from a sending cannot be done, the email has left all the same. */
export function settleBarely(context: EngineContext, row: OutboxRow | OwnerMail): void {
  transact(context, () => {
    const { db } = context
    const at = context.clock.now()
    markHandedOver(db, row.id, context.owner, at, isOwnerMail(row) ? null : appendEvent(db, 'sent', at, aboutAttempt(row)))
  })
}

function accepted(context: EngineContext, row: OutboxRow | OwnerMail, at: Instant): void {
  const { db } = context
  if (workspaceOf(db).carrierPauseUntilAt !== null) pauseCarrier(db, null, null)
  wentWell(context, at)
  if (isOwnerMail(row)) {
    markHandedOver(db, row.id, context.owner, at, null)
    markNoticesMailed(db, row.id, at)
    return
  }
  if (context.mode === 'live') noteAnswer(context, row, 'accepted', '', at)
  if (unreachableSince(db, row.personId) !== null) setUnreachable(db, row.personId, null)
  domainAccepts(context, row)
  left(
    context, row, at, sentEventId => markHandedOver(db, row.id, context.owner, at, sentEventId),
    kindOf(row.kind).owner === 'rule' ? 'by-rule' : undefined,
  )
}

/** It has left, or must be taken for that. */
function left(context: EngineContext, row: OutboxRow, at: Instant, mark: (sentEventId: number) => void, detail?: string): void {
  const { db } = context
  const sentEventId = appendEvent(db, 'sent', at, { ...aboutAttempt(row), detail })
  mark(sentEventId)
  reactToSending(db, row, at, sentEventId)
  const keenness = context.readers ? keennessOf(db, row.personId) : undefined
  if (!context.readers || keenness === undefined) return
  const acts = context.readers.actsFor({
    messageId: findEmail(db, row.id)!.messageRef!, keenness: keenness / 100, links: linksOfMessage(db, row.messageId).length,
    wanted: kindOf(row.kind).isExpected, courseId: kindOf(row.kind).owner === 'course' ? row.ownerId : null, stepId: row.itemId,
  })
  for (const act of acts) {
    insertReaderAct(db, { outboxId: row.id, dueAt: at + act.after, kind: act.kind, linkN: act.link, agent: act.agent })
  }
}

/** The server cannot be given this address at all: it is not tried for ever, and says nothing of the person. */
function unreachable(context: EngineContext, row: OutboxRow | OwnerMail, text: string, at: Instant): void {
  if (!isOwnerMail(row)) setUnreachable(context.db, row.personId, at)
  giveUp(context, row, text)
}

interface Said { verdict: Verdict, text: string, ownService: number | null }

function refused(context: EngineContext, row: OutboxRow | OwnerMail, { verdict, text, ownService }: Said, at: Instant): void {
  const { db, owner } = context
  const { tries, firstTryAt, repeats } = findInOutbox(db, row.id)!
  switch (verdict.kind) {
    case 'refused':
      if (isOwnerMail(row)) giveUp(context, row, text)
      else refusedForGood(context, row, verdict.about, text, at)
      break
    case 'stop-carrier':
      // The email at which sending stopped does not come first when it goes on.
      if (ownService !== null) {
        setAside(db, row.id, owner, 'sender stopped')
        setSenderStopped(db, ownService, text, at)
        break
      }
      setAside(db, row.id, owner, 'carrier stopped')
      if (workspaceOf(db).carrierState === 'ready') {
        stopCarrier(db, text, at)
        appendEvent(db, 'carrier-stopped', at, { outboxId: row.id })
      }
      break
    case 'try-again':
      if (at - (firstTryAt ?? at) >= GIVE_UP_AFTER) {
        giveUp(context, row, text)
        if (!isOwnerMail(row) && verdict.about === 'recipient') softlyRefused(context, row, text, at)
      }
      else markFailed(db, row.id, owner, text, at + waitAfter(tries))
      if (verdict.about === 'line' && ownService === null) pauseCarrier(db, at + CARRIER_PAUSE, text)
      if (verdict.about === 'server' && ownService === null) slowDown(context, text, at)
      if ((verdict.about === 'domain' || verdict.about === 'recipient') && !isOwnerMail(row) && !kindOf(row.kind).toStranger) {
        domainPutsOff(context, row, text, verdict.about === 'domain', at)
      }
      break
    case 'unknown':
      mayHaveArrived(context, row, { tries, repeats }, text, at)
      break
  }
}

/** Once more with the same Message-ID, twice at the most; then it is left at that, and counts as sent. */
export function mayHaveArrived(
  context: EngineContext, row: OutboxRow | OwnerMail, { tries, repeats }: { tries: number, repeats: number }, text: string, at: Instant,
): void {
  const { db } = context
  if (repeats < MOST_REPEATS) {
    queueRepeat(db, row.id, at + waitAfter(tries), text)
    if (!isOwnerMail(row)) appendEvent(db, 'may-repeat', at, aboutAttempt(row))
    return
  }
  const mark = (sentEventId: number | null) => markMayHaveArrived(db, row.id, at, sentEventId, text)
  if (!isOwnerMail(row)) left(context, row, at, mark, 'may-have-arrived')
  else {
    mark(null)
    markNoticesMailed(db, row.id, at)
  }
}

function refusedForGood(context: EngineContext, row: OutboxRow, about: Refusal, text: string, at: Instant): void {
  const { db, owner } = context
  markFailed(db, row.id, owner, text, null)
  const causeId = appendEvent(db, about === 'address' ? 'bounced' : 'given-up', at, aboutAttempt(row), { said: text })
  // Another address that does not take mail says nothing of the one they have.
  const isBounce = about === 'address' && !kindOf(row.kind).toStranger
  noteAnswer(context, row, about, text, at, isBounce)
  if (isBounce) bounce(context, row.personId, at, causeId)
  if (about === 'mailbox' || about === 'unclear') addUp(context, row, at, causeId)
  findWave(context, row, at)
}

/** Given up after days of trying for reasons of the mailbox: that counts like a refusal. */
function softlyRefused(context: EngineContext, row: OutboxRow, text: string, at: Instant): void {
  noteAnswer(context, row, 'mailbox', text, at)
  addUp(context, row, at, appendEvent(context.db, 'refused-again', at, aboutAttempt(row), { said: text }))
}

/** Refusals that say nothing lasting by themselves come to a bounce where there are enough of them. */
function addUp(context: EngineContext, row: OutboxRow, at: Instant, causeId: number): void {
  const { db } = context
  const rule = waveRule(db)
  if (kindOf(row.kind).toStranger || !addsUp(softRefusals(db, row.personId, at - rule.softDays * DAY), at, rule)) return
  bounce(context, row.personId, at, appendEvent(db, 'bounced', at, { ...aboutAttempt(row), causeId, detail: 'added-up' }))
}

function bounce({ db }: EngineContext, personId: number, at: Instant, causeId: number): void {
  changeStatus(db, personId, 'bounced', { at, causeId, ownAct: false })
  // Who was bounced before and opted in anew is not asked again where nobody reads it.
  withdrawConfirmationRequests(db, personId, at, causeId)
}

function noteAnswer({ db }: EngineContext, row: OutboxRow, about: Refusal | 'accepted', said: string, at: Instant, bounces = false): void {
  const person = findPerson(db, row.personId)
  if (!person) return
  insertAnswer(db, {
    at, domain: domainOf(person.address), outboxId: row.id, personId: row.personId, about, said,
    before: bounces ? standingNow(db, row.personId) : null,
  })
}

export function giveUp(context: EngineContext, row: OutboxRow | OwnerMail, reason: string): void {
  markFailed(context.db, row.id, context.owner, reason, null)
  if (!isOwnerMail(row)) appendEvent(context.db, 'given-up', context.clock.now(), aboutAttempt(row), { said: reason })
}
