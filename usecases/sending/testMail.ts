/** A test of an email, sent to the owner or to somebody who is asked to look at it. It is never counted, and its links lead straight on. */
import { domainOf } from '#core/message/headers'
import { checkAddress } from '#core/people/address'
import type { Mail } from '#core/ports'
import type { AskedReader, WrittenEmail } from '#core/views/email'
import { waitsBecause } from '#core/senders/sender'
import { occasionOf } from '#core/sending/occasion'
import { appendEvent } from '#data/events'
import { insertOwnerMail, type OwnerMail } from '#data/outbox'
import { findTestEmail, insertTestEmail } from '#data/testEmails'
import { workspaceOf } from '#data/workspace'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { fromOf, senderOf } from '../inner/senderOf'
import { InputProblem, NotNow } from '../problem'
import { previewEmail } from './previewEmail'

/** A test is for a few: more people are an audience. */
export const MOST_TESTERS = 5

/** `readers`: as whom it is sent, each once. */
export interface TestAsked extends WrittenEmail { readers: AskedReader[], to: string[] }

/** As each of these readers would get it, to each of these addresses. Throws an {@link InputProblem} for what is no address. */
export async function sendTest(context: WorkspaceContext, { readers, to, ...email }: TestAsked): Promise<number> {
  const { db } = context
  const sender = senderOf(db, { senderId: email.content.senderId ?? null, listId: email.listId, personId: null })
  if (!sender || sender.address === '') throw new NotNow('Fill in the sender’s address under Settings first. The test is sent from it.')
  if (waitsBecause(sender) === 'sender not confirmed') {
    throw new NotNow(`${sender.address} is not confirmed yet. Type the code from its email under Settings, Senders.`)
  }
  const addresses = [...new Set(to.map(one => one.trim()).filter(one => one !== ''))].map((one) => {
    const checked = checkAddress(one)
    if (!checked.ok) throw new InputProblem([{ field: 'to', problem: `${one}: ${checked.problem}` }])
    return checked.address.shown
  })
  if (addresses.length === 0) throw new InputProblem([{ field: 'to', problem: 'Enter at least one address.' }])
  if (addresses.length > MOST_TESTERS) {
    throw new InputProblem([{ field: 'to', problem: `A test goes to at most ${MOST_TESTERS} addresses.` }])
  }
  const versions = await Promise.all(readers.map(reader => previewEmail(context, { ...email, ...reader })))
  transact(context, () => {
    const at = context.clock.now()
    const causeId = appendEvent(db, 'test-sent', at)
    for (const filled of versions) {
      const testId = insertTestEmail(db, { ...filled, senderId: sender.id, subject: `Test: ${filled.subject || 'no subject yet'}` }, at)
      for (const toAddress of addresses) {
        insertOwnerMail(db, { kind: 'test', toAddress, occasion: occasionOf(testId), causeId, plannedAt: at })
      }
    }
  })
  context.wake()
  return versions.length * addresses.length
}

export function writeTest({ db, clock }: WorkspaceContext, { id, toAddress, messageRef, occasion }: OwnerMail): Mail {
  const { key } = workspaceOf(db)
  const test = findTestEmail(db, Number(occasion))
  if (!test) throw new Error(`There is no test ${occasion}`)
  const { senderId, ...filled } = test
  const from = fromOf(db, senderOf(db, { senderId, listId: null, personId: null }))
  return {
    messageId: messageRef ?? `<test.${id}.${key}@${domainOf(from.from.address)}>`,
    ...from, to: { name: '', address: toAddress }, ...filled,
    headers: { 'Auto-Submitted': 'auto-generated' }, at: clock.now(),
  }
}
