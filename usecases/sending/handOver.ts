/** Emails leave the house: claimed, looked at for the last time, handed over, and marked. */
import type { HandOver, Mail } from '#core/ports'
import { waitAfter } from '#core/outbox/retry'
import { SECOND, type Instant } from '#core/time/zone'
import { isBusy } from '#data/connection'
import { nextDue } from '#data/due'
import { findInOutbox, giveBack, leaseEmails, markHandingOver, renewLease, takeBack, type OutboxRow, type OwnerMail } from '#data/outbox'
import { workspaceOf } from '#data/workspace'
import type { EngineHouse } from '../house'
import { write } from '../inner/transaction'
import { lastLook } from './lastLook'
import { LEASE, RENEW } from './leases'
import { writeLetter } from './letter'
import { writeOwnerMail } from './ownerMail'
import { giveUp, mayHaveArrived, settle, settleBarely } from './settle'

/** Hands over emails due by `at`, at most `limit`; returns how many were claimed. */
export async function handOverDue(house: EngineHouse, at: Instant, limit: number): Promise<number> {
  house.stage('before lease', null)
  const rows = claim(house, at, limit)
  if (rows.length > 0) house.stage('after lease', null)
  const waiting = [...rows]
  const work = async () => {
    for (let row = waiting.shift(); row; row = waiting.shift()) await handOverOne(house, row)
  }
  await Promise.all(Array.from({ length: Math.max(1, Math.min(house.carrier.width, rows.length)) }, work))
  return rows.length
}

/** Claims the next one and hands it over; false if there was none. */
export async function handOverNext(house: EngineHouse): Promise<boolean> {
  // Read first: nobody's writing is held up for nothing.
  const due = carrierTakes(house) ? nextDue(house.db, ['email']) : null
  if (due === null || due.at > house.clock.now()) return false
  const [row] = claim(house, house.clock.now(), 1)
  if (row) await handOverOne(house, row)
  return row !== undefined
}

const claim = (house: EngineHouse, at: Instant, limit: number) => write(house, () => leaseEmails(house.db, house.owner, at, house.system.now() + LEASE, limit))

/** Whether the carrier is neither stopped nor pausing. */
export function carrierTakes(house: EngineHouse): boolean {
  const { carrierState, carrierPauseUntilAt } = workspaceOf(house.db)
  return carrierState === 'ready' && (carrierPauseUntilAt === null || carrierPauseUntilAt <= house.clock.now())
}

/** Whatever is thrown on the way, the email comes to an end of which it can be found again: never throws but for what keeps it from being written down. */
async function handOverOne(house: EngineHouse, row: OutboxRow | OwnerMail): Promise<void> {
  const stopRenewing = keepLease(house, row)
  try {
    const answer = await attempt(house, row)
    if (answer) await written(() => settleWholly(house, row, answer))
    house.stage('after marking', row.id)
  }
  catch (error) {
    house.trouble('an email could not be handed over', error)
    await written(() => leaveInOrder(house, row, error as Error))
  }
  finally {
    stopRenewing()
  }
}

/** What the carrier said; null if it was not asked. */
async function attempt(house: EngineHouse, row: OutboxRow | OwnerMail): Promise<HandOver | null> {
  if (!carrierTakes(house)) {
    giveBack(house.db, row.id, house.owner)
    return null
  }
  let letter: { mail: Mail, source: Uint8Array }
  try {
    letter = row.kind === 'notice' ? await writeOwnerMail(house, row) : await writeLetter(house, row)
  }
  catch (error) {
    if (isBusy(error)) throw error
    write(house, () => giveUp(house, row, `It could not be made: ${(error as Error).message}`))
    return null
  }
  const { messageId } = letter.mail
  const mayGo = row.kind === 'notice' ? write(house, () => markHandingOver(house.db, row.id, house.owner, messageId, house.clock.now())) : lastLook(house, row, messageId)
  if (!mayGo) return null
  house.stage('while handing over', row.id)
  const answer = await house.carrier.handOver(letter.mail, letter.source)
  house.stage('before marking', row.id)
  return answer
}

/** The email has left, or was refused: what follows from that must not undo it. */
function settleWholly(house: EngineHouse, row: OutboxRow | OwnerMail, answer: HandOver): void {
  try {
    settle(house, row, answer)
  }
  catch (error) {
    if (isBusy(error) || answer.kind !== 'accepted') throw error
    house.trouble('what follows from sending an email could not be done', error)
    settleBarely(house, row)
  }
}

/** After something was thrown: what was only claimed is tried again, what was being handed over may have left. */
function leaveInOrder(house: EngineHouse, row: OutboxRow | OwnerMail, error: Error): void {
  write(house, () => {
    const now = findInOutbox(house.db, row.id)
    if (!now || now.leaseOwner !== house.owner) return
    const at = house.clock.now()
    if (now.status === 'leased') giveBack(house.db, row.id, house.owner, at + waitAfter(now.tries + 1))
    else if (now.status === 'handing over' && house.carrier.knowsRepeats) takeBack(house.db, row.id, at + waitAfter(now.tries))
    else if (now.status === 'handing over') mayHaveArrived(house, row, now, error.message, at)
  })
}

/** A live email can take ten minutes; others must not take it for lost meanwhile. */
function keepLease(house: EngineHouse, row: OutboxRow | OwnerMail): () => void {
  const timer = setInterval(() => {
    try {
      write(house, () => renewLease(house.db, row.id, house.owner, house.system.now() + LEASE))
    }
    catch (error) {
      // Somebody else writes: the next renewal comes long before it runs out.
      if (!isBusy(error)) house.trouble('a lease could not be renewed', error)
    }
  }, RENEW)
  timer.unref?.()
  return () => clearInterval(timer)
}

/** How long what is known of an email is tried to be written down while the database is locked. */
const WRITING_WAITS = [0.2, 0.5, 1, 2, 5, 10, 20, 20, 20, 20].map(seconds => seconds * SECOND)

/** Does it again, after growing waits, for as long as another program keeps the database locked. */
async function written(work: () => void): Promise<void> {
  for (const wait of WRITING_WAITS) {
    try {
      return work()
    }
    catch (error) {
      if (!isBusy(error)) throw error
      await new Promise(resolve => setTimeout(resolve, wait))
    }
  }
  work()
}
