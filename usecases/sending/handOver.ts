/** Emails leave the house: claimed, looked at for the last time, handed over, and marked. */
import type { HandOver } from '#core/ports'
import { UNIT_MS } from '#core/time/when'
import { MINUTE, SECOND, type Instant } from '#core/time/zone'
import { heldBackFor } from '#core/people/heldback'
import { GIVE_UP_AFTER, waitAfter } from '#core/outbox/retry'
import { verdictOf } from '#core/outbox/verdict'
import { holdMail, pauseOf, putOffMail } from '#data/choices'
import { linksOfMessage } from '#data/messages'
import { findEnrolment } from '#data/enrolments'
import { appendEvent } from '#data/events'
import type { EmailKind, OutboxRow } from '#data/outbox'
import { emailsOfStep, findEmail, giveBack, leaseEmails, markFailed, markHandedOver, markHandingOver, markHeldBack, orphans, putOff, queueRepeat, takeBack } from '#data/outbox'
import { findPerson } from '#data/people'
import { needsConsent } from '#core/people/country'
import { standsFor } from '#data/markEnds'
import { findList, membership } from '#data/marks'
import { insertReaderAct, keennessOf } from '#data/reading'
import { pauseCarrier, stopCarrier, workspaceOf, consentRule } from '#data/workspace'
import type { Database } from '#data/connection'
import type { EngineHouse } from '../house'
import { write } from '../inner/transaction'
import { aboutEmail } from '../inner/aboutEmail'
import { soldBy, standingWith } from '../inner/sold'
import { withdrawAskings } from '../inner/askings'
import { changeStatus } from '../inner/marks'
import { opensAt } from '../inner/hours'
import { movePlan, turnOfEmail } from '../inner/limits'
import { reactToSending, stepOfEmail } from '../inner/reactions'
import { writeLetter } from './letter'

/** Longer than any one hand-over can take, so that a lease never runs out under a live engine. */
const LEASE = 10 * MINUTE

/** Kinds of email that wait while their reader rests. */
const WAITS_FOR_WAKING: ReadonlySet<EmailKind> = new Set(['course', 'rule'])

/** How long nothing is tried after the mail server could not be reached. */
const CARRIER_PAUSE = 30 * SECOND

/** Hands over emails due by `at`, at most `limit`; returns how many were claimed. */
export async function handOverDue(house: EngineHouse, at: Instant, limit: number): Promise<number> {
  house.stage('before lease', null)
  const rows = write(house, () => leaseEmails(house.db, house.owner, at, house.system.now() + LEASE, limit))
  if (rows.length > 0) house.stage('after lease', null)
  const waiting = [...rows]
  const work = async () => {
    for (let row = waiting.shift(); row; row = waiting.shift()) await handOverOne(house, row)
  }
  await Promise.all(Array.from({ length: Math.max(1, Math.min(house.carrier.width, rows.length)) }, work))
  return rows.length
}

async function handOverOne(house: EngineHouse, row: OutboxRow): Promise<void> {
  if (!carrierTakes(house)) {
    giveBack(house.db, row.id, house.owner)
    return
  }
  let letter
  try {
    letter = await writeLetter(house, row)
  }
  catch (error) {
    write(house, () => giveUp(house, row, `could not be made: ${(error as Error).message}`))
    return
  }
  if (!lastLook(house, row, letter.mail.messageId)) return
  house.stage('while handing over', row.id)
  const answer = await house.carrier.handOver(letter.mail, letter.source)
  house.stage('before marking', row.id)
  settle(house, row, answer)
  house.stage('after marking', row.id)
}

/** Whether the carrier is neither stopped nor pausing. */
export function carrierTakes(house: EngineHouse): boolean {
  const { carrierState, carrierPauseUntilAt } = workspaceOf(house.db)
  return carrierState === 'ready' && (carrierPauseUntilAt === null || carrierPauseUntilAt <= house.clock.now())
}

/**
 * The last look and the mark are one transaction: whoever leaves before it is
 * not mailed, whoever leaves after it was too late by that mark.
 */
function lastLook(house: EngineHouse, row: OutboxRow, messageRef: string): boolean {
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
    const listId = standsFor(db, 'lists', row.listId)!
    const reason = !person ? 'unsubscribed' : heldBackFor({
      status: person.status,
      consentMissing: person.consentAt === null && needsConsent(person.country, consentRule(db)),
      list: membership(db, listId, row.personId),
      listTakesEverybody: findList(db, listId)!.takesEverybody === 1,
      leftCourse: row.enrolmentId !== null && findEnrolment(db, row.enrolmentId)?.status === 'left',
      paused: pauseOf(db, row.personId) !== null,
      askedFor: row.askedFor === 1,
      asksToConfirm: row.kind === 'confirmation' || row.kind === 'address',
      isReceipt: row.kind === 'receipt',
      ...standingWith(db, row.personId, soldBy(house, row.messageId)),
      gotItAlready: row.purpose === 'again' && wasRead(db, row),
      tooLate: isTooLate(db, row, at),
    })
    // Whoever pauses gets it afterwards.
    if (reason === 'paused-by-themselves') {
      giveBack(db, row.id, owner)
      putOffMail(db, row.personId, pauseOf(db, row.personId)!.untilAt)
      return false
    }
    // What courses and rules send waits until they are woken; nothing of it is lost.
    if (reason === 'resting' && row.askedFor === 0 && WAITS_FOR_WAKING.has(row.kind)) {
      giveBack(db, row.id, owner)
      holdMail(db, row.personId)
      return false
    }
    if (reason) {
      markHeldBack(db, row.id, owner, reason)
      appendEvent(db, 'held-back', at, { ...aboutOf(row), detail: reason })
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
      appendEvent(db, 'held-back', at, { ...aboutOf(row), detail: 'too-many-emails' })
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

function isTooLate(db: Database, row: OutboxRow, at: Instant): boolean {
  const span = stepOfEmail(db, row)?.uselessAfter
  return span !== undefined && at > row.plannedAt + span.count * UNIT_MS[span.unit]
}

function settle(house: EngineHouse, row: OutboxRow, answer: HandOver): void {
  const { db, owner } = house
  write(house, () => {
    const at = house.clock.now()
    if (answer.kind === 'accepted') {
      handedOver(house, row, at)
      return
    }
    const { text } = answer.answer
    const verdict = verdictOf(answer.answer)
    const { tries, firstTryAt } = findEmail(db, row.id)!
    switch (verdict.kind) {
      case 'refused-recipient': {
        markFailed(db, row.id, owner, text, null)
        const causeId = appendEvent(db, 'bounced', at, aboutOf(row), { said: text })
        // Another address that does not take mail says nothing of the one they have.
        if (row.kind === 'address') break
        changeStatus(db, row.personId, 'bounced', { at, causeId, ownAct: false })
        // Who was bounced before and opted in anew is not asked again where nobody reads it.
        withdrawAskings(db, row.personId, at, causeId)
        break
      }
      case 'refused-email':
        giveUp(house, row, text)
        break
      case 'stop-carrier':
        markFailed(db, row.id, owner, text, at)
        if (workspaceOf(db).carrierState === 'ready') {
          stopCarrier(db, text, at)
          appendEvent(db, 'carrier-stopped', at, { outboxId: row.id })
        }
        break
      case 'try-again':
        if (at - (firstTryAt ?? at) >= GIVE_UP_AFTER) {
          giveUp(house, row, text)
        }
        else {
          markFailed(db, row.id, owner, text, at + waitAfter(tries))
          if (verdict.carrierIsDown) pauseCarrier(db, at + CARRIER_PAUSE, text)
        }
        break
      case 'unknown':
        queueRepeat(db, row.id, at + waitAfter(tries), text)
        appendEvent(db, 'may-repeat', at, aboutOf(row))
        break
    }
  })
}

function handedOver(house: EngineHouse, row: OutboxRow, at: Instant): void {
  const { db } = house
  const sentEventId = appendEvent(db, 'sent', at, { ...aboutOf(row), ...row.kind === 'rule' && { detail: 'by-rule' } })
  markHandedOver(db, row.id, house.owner, at, sentEventId)
  if (workspaceOf(db).carrierPauseUntilAt !== null) pauseCarrier(db, null, null)
  reactToSending(db, row, at, sentEventId)
  const keenness = house.readers ? keennessOf(db, row.personId) : undefined
  if (house.readers && keenness !== undefined) {
    const links = linksOfMessage(db, row.messageId).length
    for (const act of house.readers.actsFor({ messageId: findEmail(db, row.id)!.messageRef!, keenness: keenness / 100, links, wanted: row.kind !== 'course' && row.kind !== 'rule' && row.kind !== 'address', courseId: row.kind === 'course' ? row.thingId : null, stepId: row.stepId })) {
      insertReaderAct(db, { outboxId: row.id, dueAt: at + act.after, kind: act.kind, linkN: act.link, agent: act.agent })
    }
  }
}

function giveUp(house: EngineHouse, row: OutboxRow, reason: string): void {
  markFailed(house.db, row.id, house.owner, reason, null)
  appendEvent(house.db, 'given-up', house.clock.now(), aboutOf(row), { said: reason })
}

function aboutOf(row: OutboxRow) {
  return { ...aboutEmail(row), stepId: row.stepId, causeId: row.causeId }
}

/**
 * What an engine that died was holding. Leases go back as they were; an email
 * it was just handing over may have left, so it goes again with the same
 * Message-ID, and is counted unless the carrier knows repeats by that. Call
 * only while no other engine runs.
 */
export function recover(house: EngineHouse): { givenBack: number, repeats: number } {
  const { db } = house
  return write(house, () => {
    const rows = orphans(db, house.owner)
    const at = house.clock.now()
    for (const row of rows) {
      if (row.status === 'leased' || house.carrier.knowsRepeats) {
        takeBack(db, row.id)
      }
      else {
        queueRepeat(db, row.id, at, 'the engine stopped while handing over')
        appendEvent(db, 'may-repeat', at, aboutOf(row))
      }
    }
    const repeats = house.carrier.knowsRepeats ? 0 : rows.filter(row => row.status === 'handing over').length
    return { givenBack: rows.length - repeats, repeats }
  })
}
