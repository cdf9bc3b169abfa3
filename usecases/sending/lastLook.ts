/** The last look before an email leaves: whether it still may, and whether now. */
import { dequal } from 'dequal'
import { holds } from '#core/audience/meaning'
import { domainOf } from '#core/message/headers'
import { standingOf } from '#core/offers/offer'
import type { Audience } from '#core/sending/audience'
import { heldBackFor, type CheckFacts } from '#core/sending/checks'
import { kindOf } from '#core/sending/kinds'
import { waitsBecause } from '#core/senders/sender'
import { isSecondSending } from '#core/sending/occasion'
import { UNIT_MS } from '#core/time/when'
import type { Instant } from '#core/time/zone'
import type { Person } from '#core/views/people'
import { lazyFacts } from '#data/audience'
import { isStopped } from '#data/carrier'
import { pauseOf, putOffMail } from '#data/choices'
import type { Database } from '#data/connection'
import { isStoppedCourse } from '#data/courses'
import { findEnrolment } from '#data/enrolments'
import { appendEvent } from '#data/events'
import { standsFor } from '#data/markEnds'
import { emailsOfOccasion, giveBack, leasedFor, markHandingOver, markHeldBack, putOff, setMessage, type OutboxRow } from '#data/outbox'
import { setAside } from '#data/outboxAside'
import { publishedOfferById } from '#data/offers'
import { findPerson } from '#data/people'
import { placesTaken } from '#data/purchases'
import { findSendById } from '#data/sends'
import { keepFilled, messageOf } from '#data/messages'
import { hasAnotherSecond } from '#data/secondSendings'
import { isThere } from '#data/things'
import type { EngineContext } from '../context'
import { aboutAttempt } from '../inner/aboutEmail'
import { audienceFactsOf, checkFactsOf } from '../inner/checkFacts'
import { opensAt } from '../inner/hours'
import { momentOf } from '../inner/moment'
import { quotaVerdictOf, tellPutOff } from '../inner/facts/limits'
import { stepOfEmail } from '../inner/actions/reactions'
import { chooseFor } from '../inner/readerFacts'
import { soldBy } from '../inner/sold'
import { transact } from '../inner/reactor/transaction'
import { senderOf } from '../inner/senderOf'
import { senderAsked, type Letter } from './renderEmail'
import { countInPlan, hasRoomInPlan } from './turn'

/**
 * The last look and the mark are one transaction: whoever leaves before it is
 * not mailed, whoever leaves after it was too late by that mark. `letter`: as
 * it was made a moment ago; what stands in it is kept with the mark.
 */
export function lastLook(
  context: EngineContext, row: OutboxRow, messageRef: string, letter: Pick<Letter, 'filled' | 'messageId' | 'senderId'>,
): boolean {
  const { db, owner } = context
  return transact(context, () => {
    // Withdrawn meanwhile, or taken over: not ours to send.
    const personId = leasedFor(db, row.id, owner)
    if (personId === null) return false
    // Merged into somebody else meanwhile: it is written anew for them.
    if (personId !== row.personId) {
      giveBack(db, row.id, owner)
      return false
    }
    const at = context.clock.now()
    const person = findPerson(db, row.personId)
    if (person && isStopped(db, domainOf(person.address))) {
      setAside(db, row.id, owner, 'domain stopped')
      return false
    }
    if (kindOf(row.kind).owner === 'course' && isStoppedCourse(db, row.ownerId)) {
      setAside(db, row.id, owner, 'course stopped')
      return false
    }
    const { audience, state } = findSendById(db, row.sendId)!
    if (state === 'paused') {
      setAside(db, row.id, owner, 'send paused')
      return false
    }
    const listId = standsFor(db, 'lists', row.listId)!
    // Late, as after an outage, it waits for the next opening like any other; only then is it asked whether there is room for it.
    const openAt = person ? opensAt(db, row, person, at) : at
    const quota = person && openAt <= at ? quotaVerdictOf(db, row, person, at) : null
    const tooMany = quota?.kind === 'drops'
    const reason = !person
      ? 'unsubscribed'
      : heldBackFor(kindOf(row.kind).checks, { ...factsAtLast(context, row, person, listId, audience, at), tooMany })
    // Whoever pauses gets it afterwards.
    if (reason === 'paused-by-themselves') {
      giveBack(db, row.id, owner)
      putOffMail(db, row.personId, pauseOf(db, row.personId)!.untilAt)
      return false
    }
    // What is planned for them waits until they are woken; nothing of it is lost.
    if (reason === 'resting' && row.askedFor === 0 && kindOf(row.kind).waitsForResting) {
      setAside(db, row.id, owner, 'resting')
      return false
    }
    if (reason) {
      markHeldBack(db, row.id, owner, reason)
      appendEvent(db, 'held-back', at, { ...aboutAttempt(row), listId, detail: reason })
      return false
    }
    if (openAt > at) {
      putOff(db, row.id, owner, openAt)
      return false
    }
    if (quota?.kind === 'waits') {
      waitLonger(context, row, opensAt(db, row, person!, quota.until), quota.why, at)
      return false
    }
    // Nothing leaves from an address that nobody has shown to be read.
    const sender = senderOf(db, senderAsked(db, row, messageOf(db, letter.messageId)))
    const waits = waitsBecause(sender)
    if (waits) {
      setAside(db, row.id, owner, waits)
      return false
    }
    if ((sender?.id ?? null) !== letter.senderId) {
      giveBack(db, row.id, owner)
      return false
    }
    // They fit something else than a moment ago, when it was made: it is made again.
    const { choices } = messageOf(db, letter.messageId)
    if (choices.length > 0 && !dequal(chooseFor(db, choices, row.personId, at), letter.filled.chosen)) {
      giveBack(db, row.id, owner)
      return false
    }
    if (!hasRoomInPlan(context, row, letter.senderId, at)) return false
    if (!markHandingOver(db, row.id, owner, messageRef, at)) return false
    countInPlan(context, row, letter.senderId, at)
    if (letter.messageId !== row.messageId) setMessage(db, row.id, letter.messageId)
    keepFilled(db, row.id, letter.filled)
    return true
  })
}

/** The smallest gap moves only the sending; too many in a day or a week moves the plan with it. */
function waitLonger({ db, owner }: EngineContext, row: OutboxRow, until: Instant, why: 'gap' | 'too-many-emails', at: Instant): void {
  if (why === 'gap') {
    putOff(db, row.id, owner, until)
    return
  }
  putOff(db, row.id, owner, until, why)
  tellPutOff(db, row, at)
}

/** What is known of it now that it would leave. */
function factsAtLast(
  context: EngineContext, row: OutboxRow, person: Person, listId: number, audience: Audience | null, at: Instant,
): CheckFacts {
  const { db } = context
  return {
    ...checkFactsOf(db, person, { listId, askedFor: row.askedFor === 1, sold: soldBy(context, row.messageId) }),
    ...audienceFactsOf(db, audience, person, row.plannedAt, at),
    leftCourse: row.enrolmentId !== null && (findEnrolment(db, row.enrolmentId)?.status === 'left' || !isThere(db, 'course', row.ownerId)),
    gotItAlready: isSecondSending(row.occasion) && wasRead(db, row) || isNotMissed(db, row, at) || hasReadEarlier(db, row),
    tooLate: isTooLate(db, row, at) || isClosed(db, row, at),
  }
}

/** Whether any of its sendings has been read meanwhile. */
function wasRead(db: Database, row: OutboxRow): boolean {
  return emailsOfOccasion(db, row).some(({ openedAt, clickedAt }) => openedAt !== null || clickedAt !== null)
}

/** It is for people who have not read an earlier email of the course, and they have. */
function hasReadEarlier(db: Database, row: OutboxRow): boolean {
  const itemId = stepOfEmail(db, row)?.notIfReadId
  return itemId !== undefined && wasRead(db, { ...row, itemId })
}

/** It is a second sending, and its reader does not lack any more what it is for, or has got another one. */
function isNotMissed(db: Database, { id, sendId, personId }: OutboxRow, at: Instant): boolean {
  const { parentId, audience } = findSendById(db, sendId)!
  if (parentId === null) return false
  const facts = lazyFacts(db, personId)
  return facts === undefined || !holds(audience!.getsIt, facts, momentOf(db, at))
    || hasAnotherSecond(db, { parentId, personId, outboxId: id })
}

/** What it says can be bought cannot any more, or not just now. */
function isClosed(db: Database, { kind, ownerId }: OutboxRow, at: Instant): boolean {
  if (kind !== 'opening') return false
  const offer = publishedOfferById(db, ownerId)
  return !offer || !['open', 'being-paid'].includes(standingOf(offer.content, at, placesTaken(db, ownerId, at)).is)
}

function isTooLate(db: Database, row: OutboxRow, at: Instant): boolean {
  const span = stepOfEmail(db, row)?.uselessAfter
  return span !== undefined && at > row.plannedAt + span.count * UNIT_MS[span.unit]
}
