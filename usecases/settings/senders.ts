/** Who emails are from: addresses that are confirmed by a code, once. */
import { randomInt } from 'node:crypto'
import { checkAddress, needsUtf8Server } from '#core/people/address'
import { mailDomainOf } from '#core/senders/mailDomain'
import { CODE_LENGTH, CODE_MINUTES, CODE_TRIES, type SenderInput } from '#core/senders/sender'
import { occasionOf } from '#core/sending/occasion'
import { MINUTE } from '#core/time/zone'
import { appendEvent } from '#data/events'
import { insertOwnerMail } from '#data/outbox'
import { releaseSenders } from '#data/outboxAside'
import {
  countCodeTry, defaultSenderId, goneSender, insertSender, senderByAddress, senderOfMark, setDefaultSender, setMarksOfSender,
  setSenderBack, setSenderCode, setSenderConfirmed, setSenderGone, setSenderStopped, updateSender,
} from '#data/senders'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { theSender } from '../inner/senderOf'
import { InputProblem, NotNow, NotThere, type FieldProblem } from '../problem'
import { watchMailDomain } from './mailDomains'

/** `listIds`, `tagIds`: whose emails go from it where the email itself says nothing. */
export interface SenderAsked extends SenderInput { listIds: number[], tagIds: number[] }

/** What is wrong with an address that emails are to be from, or answered to. */
export function senderAddressProblem(address: string): string | null {
  const checked = checkAddress(address)
  if (!checked.ok) return checked.problem
  return needsUtf8Server(checked.address.shown)
    ? 'Many mail servers refuse addresses with letters like these before the @. Use one with plain letters.'
    : null
}

function tidy({ name, address, replyTo, serviceUrl }: SenderInput): SenderInput {
  return { name: name.replace(/\s+/g, ' ').trim(), address: address.trim(), replyTo: replyTo.trim(), serviceUrl }
}

/** The mail server's address is checked by whoever knows what one looks like. A new address gets a code. Returns its number. */
export function saveSender(context: WorkspaceContext, id: number | null, { listIds, tagIds, ...asked }: SenderAsked): number {
  const { db } = context
  const input = tidy(asked)
  const problems: FieldProblem[] = []
  if (input.name === '') problems.push({ field: 'name', problem: 'Say who readers see as the sender.' })
  const address = senderAddressProblem(input.address)
  if (address !== null) problems.push({ field: 'address', problem: address })
  const replyTo = input.replyTo === '' ? null : senderAddressProblem(input.replyTo)
  if (replyTo !== null) problems.push({ field: 'replyTo', problem: replyTo })
  return transact(context, () => {
    const other = senderByAddress(db, input.address)
    if (other && other.id !== id) problems.push({ field: 'address', problem: `“${other.name}” has this address already.` })
    if (problems.length > 0) throw new InputProblem(problems)
    const senderId = keepSender(context, id, input)
    setMarksOfSender(db, 'lists', senderId, listIds)
    setMarksOfSender(db, 'tags', senderId, tagIds)
    return senderId
  })
}

/** In the caller's transaction. The first is the workspace's. */
export function keepSender(context: WorkspaceContext, id: number | null, input: SenderInput): number {
  const { db, clock } = context
  const before = id === null ? undefined : theSender(db, id)
  const senderId = id ?? insertSender(db, input, clock.now())
  if (before) updateSender(db, senderId, input)
  if (defaultSenderId(db) === null) setDefaultSender(db, senderId)
  if (input.address !== '') watchMailDomain(context, mailDomainOf(input.address))
  if (before?.address.toLowerCase() !== input.address.toLowerCase()) askToConfirm(context, senderId)
  if (before && before.serviceUrl !== input.serviceUrl) releaseSenders(db, clock.now())
  return senderId
}

/* That somebody reads what is sent there */

/** In practice nothing leaves: nobody's address can be used for anything. */
export function askToConfirm(context: Pick<WorkspaceContext, 'db' | 'mode' | 'clock'>, senderId: number): void {
  if (context.mode === 'practice') setSenderConfirmed(context.db, senderId, context.clock.now())
  else if (theSender(context.db, senderId).address !== '') queueCode(context, senderId)
}

function queueCode({ db, clock }: Pick<WorkspaceContext, 'db' | 'clock'>, senderId: number): void {
  const at = clock.now()
  setSenderCode(db, senderId, String(randomInt(10 ** CODE_LENGTH)).padStart(CODE_LENGTH, '0'), at + CODE_MINUTES * MINUTE)
  const causeId = appendEvent(db, 'sender-code-asked', at)
  insertOwnerMail(db, { kind: 'code', toAddress: theSender(db, senderId).address, occasion: occasionOf(causeId), causeId, plannedAt: at })
}

/** Once more; the one before is of no use any more. */
export function sendSenderCode(context: WorkspaceContext, id: number): void {
  transact(context, () => {
    const { confirmedAt, codeUntilAt } = theSender(context.db, id)
    if (confirmedAt !== null) throw new NotNow('This address is confirmed already.')
    // Whoever has the address may not have asked for any.
    if (codeUntilAt !== null && codeUntilAt - CODE_MINUTES * MINUTE > context.clock.now() - MINUTE) {
      throw new NotNow('A code was sent less than a minute ago. Look for it first.')
    }
    queueCode(context, id)
  })
  context.wake()
}

/** What waited for it goes on. */
export function confirmSender(context: WorkspaceContext, id: number, typed: string): void {
  const { db, clock } = context
  const refuse = (problem: string) => new InputProblem([{ field: 'code', problem }])
  const outcome = transact(context, () => {
    const at = clock.now()
    const sender = theSender(db, id)
    if (sender.confirmedAt !== null) return null
    if (sender.code === null || sender.codeUntilAt === null || sender.codeUntilAt <= at) {
      return `The code is older than ${CODE_MINUTES} minutes. Send a new one.`
    }
    if (sender.codeTries >= CODE_TRIES) return 'This code was mistyped too often. Send a new one.'
    if (typed.replace(/\s/g, '') !== sender.code) {
      countCodeTry(db, id)
      return 'That is not the code in the newest email.'
    }
    setSenderConfirmed(db, id, at)
    releaseSenders(db, at)
    appendEvent(db, 'sender-confirmed', at)
    return null
  })
  if (outcome !== null) throw refuse(outcome)
  context.wake()
}

/* The workspace's, and those that are not needed any more */

export function makeDefaultSender(context: WorkspaceContext, id: number): void {
  const { db, clock } = context
  transact(context, () => {
    theSender(db, id)
    setDefaultSender(db, id)
    releaseSenders(db, clock.now())
  })
  context.wake()
}

/** Emails that name it go from who would be the sender without it. */
export function removeSender(context: WorkspaceContext, id: number): void {
  const { db, clock } = context
  transact(context, () => {
    theSender(db, id)
    if (defaultSenderId(db) === id) throw new NotNow(
      'Everything goes from this address if nothing else is said. Choose another for that first.'
    )
    setSenderGone(db, id, clock.now())
    releaseSenders(db, clock.now())
  })
  context.wake()
}

/** As it was before it was removed; what has another sender by now keeps that. */
export function restoreSender(context: WorkspaceContext, id: number, { listIds, tagIds }: Pick<SenderAsked, 'listIds' | 'tagIds'>): void {
  const { db, clock } = context
  transact(context, () => {
    const gone = goneSender(db, id)
    if (!gone) throw new NotThere('There is nothing to bring back.')
    const other = senderByAddress(db, gone.address)
    if (other) throw new NotNow(`“${other.name}” has this address by now. So nothing was undone.`)
    setSenderBack(db, id)
    const free = (table: 'lists' | 'tags', ids: number[]) => ids.filter(markId => senderOfMark(db, table, markId) === null)
    setMarksOfSender(db, 'lists', id, free('lists', listIds))
    setMarksOfSender(db, 'tags', id, free('tags', tagIds))
    releaseSenders(db, clock.now())
  })
  context.wake()
}

/** Sending by its own mail service goes on, after the owner has looked at why it stopped. */
export function resumeSender(context: WorkspaceContext, id: number): void {
  const { db, clock } = context
  transact(context, () => {
    theSender(db, id)
    setSenderStopped(db, id, null, clock.now())
    releaseSenders(db, clock.now())
  })
  context.wake()
}
