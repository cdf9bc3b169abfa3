/** The last look before an email leaves: whether it still may, and whether now. */
import { domainOf } from '#core/message/headers'
import { standingOf } from '#core/offers/offer'
import { needsConsent } from '#core/people/country'
import { heldBackFor } from '#core/people/heldback'
import { UNIT_MS } from '#core/time/when'
import type { Instant } from '#core/time/zone'
import { isStopped } from '#data/carrier'
import { pauseOf, putOffMail } from '#data/choices'
import type { Database } from '#data/connection'
import { isStoppedCourse } from '#data/courses'
import { findEnrolment } from '#data/enrolments'
import { appendEvent } from '#data/events'
import { standsFor } from '#data/markEnds'
import { findList, membership } from '#data/marks'
import { emailsOfStep, findEmail, giveBack, markHandingOver, markHeldBack, putOff, setAside, type EmailKind, type OutboxRow } from '#data/outbox'
import { publishedOfferById } from '#data/offers'
import { findPerson } from '#data/people'
import { placesTaken } from '#data/purchases'
import { isThere } from '#data/things'
import { consentRule } from '#data/workspace'
import type { EngineHouse } from '../house'
import { aboutAttempt } from '../inner/aboutEmail'
import { opensAt } from '../inner/hours'
import { movePlan, turnOfEmail } from '../inner/limits'
import { stepOfEmail } from '../inner/reactions'
import { soldBy, standingWith } from '../inner/sold'
import { write } from '../inner/transaction'
import { STEP_OF_ASKING, STEP_OF_OPENING } from '../inner/waits'

/** Kinds of email that wait while their reader rests. */
const WAITS_FOR_WAKING: ReadonlySet<EmailKind> = new Set(['course', 'rule'])

/**
 * The last look and the mark are one transaction: whoever leaves before it is
 * not mailed, whoever leaves after it was too late by that mark.
 */
export function lastLook(house: EngineHouse, row: OutboxRow, messageRef: string): boolean {
  const { db, owner } = house
  return write(house, () => {
    // Withdrawn meanwhile, or taken over: not ours to send.
    const now = findEmail(db, row.id)
    if (now?.status !== 'leased' || now.leaseOwner !== owner) return false
    // Merged into somebody else meanwhile: it is written anew for them.
    if (now.personId !== row.personId) {
      giveBack(db, row.id, owner)
      return false
    }
    const at = house.clock.now()
    const person = findPerson(db, row.personId)
    if (person && isStopped(db, domainOf(person.address))) {
      setAside(db, row.id, owner, 'domain stopped')
      return false
    }
    if (row.kind === 'course' && isStoppedCourse(db, row.thingId)) {
      setAside(db, row.id, owner, 'course stopped')
      return false
    }
    const listId = standsFor(db, 'lists', row.listId)!
    const reason = !person ? 'unsubscribed' : heldBackFor({
      status: person.status,
      consentMissing: person.consentAt === null && needsConsent(person.country, consentRule(db)),
      list: membership(db, listId, row.personId),
      listTakesEverybody: findList(db, listId)!.takesEverybody === 1,
      leftCourse: row.kind === 'course' && (findEnrolment(db, row.enrolmentId!)?.status === 'left' || !isThere(db, 'course', row.thingId)),
      paused: pauseOf(db, row.personId) !== null,
      askedFor: row.askedFor === 1,
      asksToConfirm: row.kind === 'confirmation' || row.kind === 'address' || isAsking(row),
      isReceipt: row.kind === 'receipt',
      ...standingWith(db, row.personId, soldBy(house, row.messageId)),
      gotItAlready: row.purpose === 'again' && wasRead(db, row),
      tooLate: isTooLate(db, row, at) || isClosed(db, row, at),
    })
    // Whoever pauses gets it afterwards.
    if (reason === 'paused-by-themselves') {
      giveBack(db, row.id, owner)
      putOffMail(db, row.personId, pauseOf(db, row.personId)!.untilAt)
      return false
    }
    // What courses and rules send waits until they are woken; nothing of it is lost.
    if (reason === 'resting' && row.askedFor === 0 && WAITS_FOR_WAKING.has(row.kind)) {
      setAside(db, row.id, owner, 'resting')
      return false
    }
    if (reason) {
      markHeldBack(db, row.id, owner, reason)
      appendEvent(db, 'held-back', at, { ...aboutAttempt(row), listId, detail: reason })
      return false
    }
    // Late, as after an outage: it waits for the next opening like any other.
    const openAt = opensAt(db, row, person!, at)
    if (openAt > at) {
      putOff(db, row.id, owner, openAt)
      return false
    }
    const turn = turnOfEmail(db, row, person!, at)
    if (turn.kind === 'waits') {
      waitLonger(house, row, opensAt(db, row, person!, turn.until), turn.why, at)
      return false
    }
    if (turn.kind === 'drops') {
      markHeldBack(db, row.id, owner, 'too-many-emails')
      appendEvent(db, 'held-back', at, { ...aboutAttempt(row), detail: 'too-many-emails' })
      return false
    }
    return markHandingOver(db, row.id, owner, messageRef, at)
  })
}

/** The smallest gap moves only the sending; too many in a day or a week moves the plan with it. */
function waitLonger({ db, owner }: EngineHouse, row: OutboxRow, until: Instant, why: 'gap' | 'too-many-emails', at: Instant): void {
  if (why === 'gap') {
    putOff(db, row.id, owner, until)
    return
  }
  putOff(db, row.id, owner, until, why)
  movePlan(db, row, until, at)
}

/** Whether its first sending has been read meanwhile. */
function wasRead(db: Database, { thingId, personId, stepId, visit }: OutboxRow): boolean {
  return emailsOfStep(db, { courseId: thingId, personId, stepId, visit }).some(({ openedAt, clickedAt }) => openedAt !== null || clickedAt !== null)
}

const isAsking = ({ kind, stepId }: OutboxRow): boolean => kind === 'waiting' && stepId === STEP_OF_ASKING

/** What it says can be bought cannot any more, or not just now. */
function isClosed(db: Database, { kind, stepId, thingId }: OutboxRow, at: Instant): boolean {
  if (kind !== 'waiting' || stepId !== STEP_OF_OPENING) return false
  const offer = publishedOfferById(db, thingId)
  return !offer || !['open', 'being-paid'].includes(standingOf(offer.content, at, placesTaken(db, thingId, at)).is)
}

function isTooLate(db: Database, row: OutboxRow, at: Instant): boolean {
  const span = stepOfEmail(db, row)?.uselessAfter
  return span !== undefined && at > row.plannedAt + span.count * UNIT_MS[span.unit]
}

