/** Who emails are from. */
import type { DmarcPolicy } from '#core/senders/mailDomain'
import type { SenderInput } from '#core/senders/sender'
import type { WarmUp } from '#core/sending/warmUp'
import type { DomainLine, SendersView } from '#core/views/senders'
import type { Nothing } from './operation'

export interface SenderBody extends SenderInput { listIds: number[], tagIds: number[], insideMeant?: boolean }

export interface SendersOperations {
  'GET /senders': { answer: SendersView }
  'POST /senders': { body: SenderBody, answer: { id: number } }
  'PUT /senders/:id': { body: SenderBody, answer: Nothing }
  'DELETE /senders/:id': { answer: Nothing }
  /** As it was before it was removed. */
  'POST /senders/:id/restore': { body: { listIds: number[], tagIds: number[] }, answer: Nothing }
  /** A new code goes to its address. */
  'POST /senders/:id/code': { answer: Nothing }
  'POST /senders/:id/confirm': { body: { code: string }, answer: Nothing }
  'PUT /senders/:id/default': { answer: Nothing }
  'POST /senders/:id/resume': { answer: Nothing }
  /** A plan to make it known: so many emails a day, growing; `plan` null ends it. */
  'PUT /senders/:id/warm-up': { body: { plan: Omit<WarmUp, 'startedOn'> | null }, answer: Nothing }
  'POST /mail-domains/:domain/check': { answer: DomainLine }
  'POST /mail-domains/:domain/key': { answer: DomainLine }
  /** What the name servers of practice answer from now on. */
  'PUT /mail-domains/:domain/practice': { body: { dkim: boolean, dmarc: DmarcPolicy | null, spf: boolean }, answer: DomainLine }
}
