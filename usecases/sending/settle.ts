/** What came of handing an email over, written down. */
import type { HandOver } from '#core/ports'
import { GIVE_UP_AFTER, MOST_REPEATS, waitAfter } from '#core/outbox/retry'
import { verdictOf, type Refusal, type Verdict } from '#core/outbox/verdict'
import { addsUp } from '#core/outbox/wave'
import { domainOf } from '#core/message/headers'
import { DAY, SECOND, type Instant } from '#core/time/zone'
import { insertAnswer, setUnreachable, softRefusals, waveRule } from '#data/carrier'
import { appendEvent } from '#data/events'
import { linksOfMessage } from '#data/messages'
import { markNoticesMailed } from '#data/notices'
import { findEmail, findInOutbox, markFailed, markHandedOver, markMayHaveArrived, queueRepeat, setAside, type OutboxRow, type OwnerMail } from '#data/outbox'
import { findPerson } from '#data/people'
import { insertReaderAct, keennessOf } from '#data/reading'
import { pauseCarrier, stopCarrier, workspaceOf } from '#data/workspace'
import type { EngineHouse } from '../house'
import { aboutAttempt } from '../inner/aboutEmail'
import { standingNow } from '../inner/asBefore'
import { withdrawAskings } from '../inner/askings'
import { changeStatus } from '../inner/marks'
import { reactToSending } from '../inner/reactions'
import { write } from '../inner/transaction'
import { STEP_OF_OPENING } from '../inner/waits'
import { slowDown, wentWell } from './pace'
import { findWave } from './waves'

/** How long nothing is tried after the mail server could not be reached. */
const CARRIER_PAUSE = 30 * SECOND

export function settle(house: EngineHouse, row: OutboxRow | OwnerMail, answer: HandOver): void {
  write(house, () => {
    const at = house.clock.now()
    if (answer.kind === 'accepted') accepted(house, row, at)
    else if (answer.kind === 'unreachable') unreachable(house, row, answer.text, at)
    else refused(house, row, verdictOf(answer.answer), answer.answer.text, at)
  })
}

/** Only the mark: where what follows from a sending cannot be done, the email has left all the same. */
export function settleBarely(house: EngineHouse, row: OutboxRow | OwnerMail): void {
  write(house, () => {
    const { db } = house
    const at = house.clock.now()
    markHandedOver(db, row.id, house.owner, at, row.kind === 'notice' ? null : appendEvent(db, 'sent', at, aboutAttempt(row)))
  })
}

function accepted(house: EngineHouse, row: OutboxRow | OwnerMail, at: Instant): void {
  const { db } = house
  if (workspaceOf(db).carrierPauseUntilAt !== null) pauseCarrier(db, null, null)
  wentWell(house, at)
  if (row.kind === 'notice') {
    markHandedOver(db, row.id, house.owner, at, null)
    markNoticesMailed(db, row.id, at)
    return
  }
  if (house.mode === 'live') noteAnswer(house, row, 'accepted', '', at)
  setUnreachable(db, row.personId, null)
  left(house, row, at, sentEventId => markHandedOver(db, row.id, house.owner, at, sentEventId), row.kind === 'rule' ? 'by-rule' : undefined)
}

/** It has left the house, or must be taken for that. */
function left(house: EngineHouse, row: OutboxRow, at: Instant, mark: (sentEventId: number) => void, detail?: string): void {
  const { db } = house
  const sentEventId = appendEvent(db, 'sent', at, { ...aboutAttempt(row), detail })
  mark(sentEventId)
  reactToSending(db, row, at, sentEventId)
  const keenness = house.readers ? keennessOf(db, row.personId) : undefined
  if (!house.readers || keenness === undefined) return
  const acts = house.readers.actsFor({
    messageId: findEmail(db, row.id)!.messageRef!, keenness: keenness / 100, links: linksOfMessage(db, row.messageId).length,
    wanted: row.kind !== 'course' && row.kind !== 'rule' && row.kind !== 'address' && !(row.kind === 'waiting' && row.stepId === STEP_OF_OPENING), courseId: row.kind === 'course' ? row.thingId : null, stepId: row.stepId,
  })
  for (const act of acts) insertReaderAct(db, { outboxId: row.id, dueAt: at + act.after, kind: act.kind, linkN: act.link, agent: act.agent })
}

/** The server cannot be given this address at all: it is not tried for ever, and says nothing of the person. */
function unreachable(house: EngineHouse, row: OutboxRow | OwnerMail, text: string, at: Instant): void {
  if (row.kind !== 'notice') setUnreachable(house.db, row.personId, at)
  giveUp(house, row, text)
}

function refused(house: EngineHouse, row: OutboxRow | OwnerMail, verdict: Verdict, text: string, at: Instant): void {
  const { db, owner } = house
  const { tries, firstTryAt, repeats } = findInOutbox(db, row.id)!
  switch (verdict.kind) {
    case 'refused':
      if (row.kind === 'notice') giveUp(house, row, text)
      else refusedForGood(house, row, verdict.about, text, at)
      break
    case 'stop-carrier':
      // The email at which sending stopped does not come first when it goes on.
      setAside(db, row.id, owner, 'carrier stopped')
      if (workspaceOf(db).carrierState === 'ready') {
        stopCarrier(db, text, at)
        appendEvent(db, 'carrier-stopped', at, { outboxId: row.id })
      }
      break
    case 'try-again':
      if (at - (firstTryAt ?? at) >= GIVE_UP_AFTER) {
        giveUp(house, row, text)
        if (row.kind !== 'notice' && verdict.about === 'recipient') softlyRefused(house, row, text, at)
      }
      else markFailed(db, row.id, owner, text, at + waitAfter(tries))
      if (verdict.about === 'line') pauseCarrier(db, at + CARRIER_PAUSE, text)
      if (verdict.about === 'server') slowDown(house, text, at)
      break
    case 'unknown':
      mayHaveArrived(house, row, { tries, repeats }, text, at)
      break
  }
}

/** Once more with the same Message-ID, twice at the most; then it is left at that, and counts as sent. */
export function mayHaveArrived(house: EngineHouse, row: OutboxRow | OwnerMail, { tries, repeats }: { tries: number, repeats: number }, text: string, at: Instant): void {
  const { db } = house
  if (repeats < MOST_REPEATS) {
    queueRepeat(db, row.id, at + waitAfter(tries), text)
    if (row.kind !== 'notice') appendEvent(db, 'may-repeat', at, aboutAttempt(row))
    return
  }
  const mark = (sentEventId: number | null) => markMayHaveArrived(db, row.id, at, sentEventId, text)
  if (row.kind !== 'notice') left(house, row, at, mark, 'may-have-arrived')
  else {
    mark(null)
    markNoticesMailed(db, row.id, at)
  }
}

function refusedForGood(house: EngineHouse, row: OutboxRow, about: Refusal, text: string, at: Instant): void {
  const { db, owner } = house
  markFailed(db, row.id, owner, text, null)
  const causeId = appendEvent(db, about === 'address' ? 'bounced' : 'given-up', at, aboutAttempt(row), { said: text })
  // Another address that does not take mail says nothing of the one they have.
  const isBounce = about === 'address' && row.kind !== 'address'
  noteAnswer(house, row, about, text, at, isBounce)
  if (isBounce) bounce(house, row.personId, at, causeId)
  if (about === 'mailbox' || about === 'unclear') addUp(house, row, at, causeId)
  findWave(house, row, at)
}

/** Given up after days of trying for reasons of the mailbox: that counts like a refusal. */
function softlyRefused(house: EngineHouse, row: OutboxRow, text: string, at: Instant): void {
  noteAnswer(house, row, 'mailbox', text, at)
  addUp(house, row, at, appendEvent(house.db, 'refused-again', at, aboutAttempt(row), { said: text }))
}

/** Refusals that say nothing lasting by themselves come to a bounce where there are enough of them. */
function addUp(house: EngineHouse, row: OutboxRow, at: Instant, causeId: number): void {
  const { db } = house
  const rule = waveRule(db)
  if (row.kind === 'address' || !addsUp(softRefusals(db, row.personId, at - rule.softDays * DAY), at, rule)) return
  bounce(house, row.personId, at, appendEvent(db, 'bounced', at, { ...aboutAttempt(row), causeId, detail: 'added-up' }))
}

function bounce({ db }: EngineHouse, personId: number, at: Instant, causeId: number): void {
  changeStatus(db, personId, 'bounced', { at, causeId, ownAct: false })
  // Who was bounced before and opted in anew is not asked again where nobody reads it.
  withdrawAskings(db, personId, at, causeId)
}

function noteAnswer({ db }: EngineHouse, row: OutboxRow, about: Refusal | 'accepted', said: string, at: Instant, bounces = false): void {
  const person = findPerson(db, row.personId)
  if (!person) return
  insertAnswer(db, { at, domain: domainOf(person.address), outboxId: row.id, personId: row.personId, about, said, before: bounces ? standingNow(db, row.personId) : null })
}

export function giveUp(house: EngineHouse, row: OutboxRow | OwnerMail, reason: string): void {
  markFailed(house.db, row.id, house.owner, reason, null)
  if (row.kind !== 'notice') appendEvent(house.db, 'given-up', house.clock.now(), aboutAttempt(row), { said: reason })
}
