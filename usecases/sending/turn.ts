/** Whether it is an email's turn: so many a minute to one domain, none while that pauses, and so many a day from a new sender. */
import { domainOf } from '#core/message/headers'
import { afterDeferral, rateOf, takeTurn } from '#core/sending/domainPace'
import { kindOf } from '#core/sending/kinds'
import type { WaitsForTurn } from '#core/sending/reasons'
import { mostOn } from '#core/sending/warmUp'
import { addDays, instantOf, localOf, type Instant } from '#core/time/zone'
import type { Database } from '#data/connection'
import { anotherPauses, domainRates, domainState, isPaced, setDomainState, setDomainWell } from '#data/domainPace'
import { messageOf } from '#data/messages'
import { findEmail, type OutboxRow } from '#data/outbox'
import { waitForTurn } from '#data/outboxAside'
import { findPerson } from '#data/people'
import { countSent, sentByDay, warmUpOf } from '#data/warmUp'
import { workspaceOf } from '#data/workspace'
import type { EngineContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { senderOf } from '../inner/senderOf'
import { slowDown } from './pace'
import { senderAsked } from './renderEmail'

interface Turn { at: Instant, why: WaitsForTurn }

/** What was asked for, and what is for the workspace itself, waits for no turn. */
const waitsForTurns = ({ askedFor, kind }: OutboxRow): boolean => askedFor === 0 && kindOf(kind).rank !== null

/** Whether it might have to wait. */
export const mayWaitForTurn = ({ db }: EngineContext, row: OutboxRow): boolean => waitsForTurns(row) && isPaced(db)

/** Asked before an email is made: false, and it waits, where it is not its turn. */
export function hasTurn(context: EngineContext, row: OutboxRow): boolean {
  const { db, owner } = context
  if (!mayWaitForTurn(context, row)) return true
  return transact(context, () => {
    const now = findEmail(db, row.id)
    if (now?.status !== 'leased' || now.leaseOwner !== owner) return false
    const at = context.clock.now()
    const byPlan = row.tries === 0 ? planTurn(db, senderIdOf(db, row), row.plannedAt, at) : null
    const turn = byPlan ?? domainTurn(db, now, at)
    if (turn) waitForTurn(db, row.id, owner, turn.at, turn.why)
    return turn === null
  })
}

/** The turn that was taken for it is used; where the domain pauses by then, it waits for the end of that and for another. */
function domainTurn(db: Database, { personId, reason, turnAt }: OutboxRow, at: Instant): Turn | null {
  const person = findPerson(db, personId)
  if (!person) return null
  const domain = domainOf(person.address)
  const state = domainState(db, domain)
  const pauses = state.pauseUntilAt !== null && state.pauseUntilAt > at
  const aMinute = rateOf(domainRates(db), domain)
  if (aMinute === null) return pauses ? { at: state.pauseUntilAt!, why: 'domain pauses' } : null
  if (!pauses && reason === 'domain pace' && turnAt !== null && turnAt <= at) return null
  const taken = takeTurn(state, aMinute, at)
  setDomainState(db, domain, taken.state)
  return taken.turnAt <= at ? null : { at: taken.turnAt, why: pauses ? 'domain pauses' : 'domain pace' }
}

const senderIdOf = (db: Database, row: OutboxRow): number | null =>
  senderOf(db, senderAsked(db, row, messageOf(db, row.messageId)))?.id ?? null

/** Null where the plan of its sender has room today; else the next day, at the clock time it was planned for. */
function planTurn(db: Database, senderId: number | null, plannedAt: Instant, at: Instant): Turn | null {
  const plan = senderId === null ? null : warmUpOf(db, senderId)
  if (!plan) return null
  const { zone } = workspaceOf(db)
  const today = localOf(at, zone).date
  const sent = sentByDay(db, senderId!, plan.startedOn)
  const most = mostOn(plan, sent, today)
  if (most === null || (sent.find(({ date }) => date === today)?.sent ?? 0) < most) return null
  return { at: instantOf(addDays(today, 1), localOf(plannedAt, zone).time, zone), why: 'warm-up' }
}

/** Whether the plan of its sender still has room, now that it would leave; it waits if not. A further try is counted already. */
export function hasRoomInPlan({ db, owner }: EngineContext, row: OutboxRow, senderId: number | null, at: Instant): boolean {
  const turn = waitsForTurns(row) && row.tries === 0 ? planTurn(db, senderId, row.plannedAt, at) : null
  if (turn) waitForTurn(db, row.id, owner, turn.at, turn.why)
  return turn === null
}

/** It leaves: whatever it is, receivers see it. In the transaction of the mark. */
export function countInPlan({ db }: EngineContext, row: OutboxRow, senderId: number | null, at: Instant): void {
  if (row.tries > 0 || senderId === null || warmUpOf(db, senderId) === null) return
  countSent(db, senderId, localOf(at, workspaceOf(db).zone).date)
}

/* What its server says */

const domainOfRow = (db: Database, row: OutboxRow): string | null => {
  const person = findPerson(db, row.personId)
  return person ? domainOf(person.address) : null
}

/**
 * The receiving domain puts an email off, as it seems. Where several ask for fewer at a time, it is rather the server between us and them.
 */
export function domainPutsOff(context: EngineContext, row: OutboxRow, said: string, asksSlower: boolean, at: Instant): void {
  const { db } = context
  const domain = domainOfRow(db, row)
  if (domain === null) return
  setDomainState(db, domain, afterDeferral(domainState(db, domain), asksSlower, at), said)
  if (asksSlower && anotherPauses(db, domain, at)) slowDown(context, said, at)
}

export function domainAccepts({ db }: EngineContext, row: OutboxRow): void {
  const domain = domainOfRow(db, row)
  if (domain !== null) setDomainWell(db, domain)
}
