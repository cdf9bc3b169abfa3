/** Who emails are from, and what their domains publish. */
import type { DnsRecord, MailDomain, Remark } from '../senders/mailDomain'
import type { SenderInput } from '../senders/sender'
import type { SentOn, WarmUp } from '../sending/warmUp'
import type { Instant } from '../time/zone'

export interface SenderLine extends SenderInput {
  id: number
  isDefault: boolean
  /** Null while nobody has shown that what is sent there is read. */
  confirmedAt: Instant | null
  /** Until when the code that went there last can be used. */
  codeUntilAt: Instant | null
  /** Why its own mail service refused; null while it does not. */
  stoppedReason: string | null
  /** Of what it is the sender where an email says nothing else. */
  listIds: number[]
  tagIds: number[]
  domain: string
  /** Null where it may send as much as there is. */
  warmUp: WarmUpLine | null
}

export interface WarmUpLine extends WarmUp {
  /** What left on each day since it began, today last. */
  sent: SentOn[]
  /** How many may leave today; null once the plan is over. */
  most: number | null
}

export interface DomainLine extends MailDomain {
  isSigned: boolean
  /** To be published: our key, and a policy where there is none. */
  records: (DnsRecord & { what: string, isThere: boolean })[]
  remarks: Remark[]
}

export interface SendersView {
  senders: SenderLine[]
  domains: DomainLine[]
  /** Emails that wait for a sender to be confirmed, or for its mail service. */
  waiting: number
  /** Emails that wait for another day because of a plan. */
  waitingForPlans: number
}
