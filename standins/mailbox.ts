/** The carrier of practice: nothing leaves the machine, every email lands in the practice mailbox. */
import type { AttachedContent, Carrier, HandOver, Mail } from '#core/ports'
import type { Answer } from '#core/sending/verdict'
import type { Instant } from '#core/time/zone'

export interface MailboxStore {
  /** Keeps an email under its Message-ID; the same one again changes nothing. */
  deliver(mail: {
    messageRef: string, toAddress: string, toName: string, subject: string, source: Uint8Array, attached: AttachedContent[], at: Instant,
  }): void
}

/**
 * Addresses that fail on purpose, so that refusals can be tried in practice:
 * the part before the @ says how.
 */
const FAILURES: Record<string, Answer> = {
  'refused': { stage: 'recipient', code: 550, text: '550 5.1.1 No such mailbox (asked for by the address)' },
  'later': { stage: 'recipient', code: 451, text: '451 4.3.0 Try again later (asked for by the address)' },
}

export function createMailbox(store: MailboxStore): Carrier {
  return {
    width: 1,
    knowsRepeats: true,
    async handOver(mail: Mail, source: Uint8Array): Promise<HandOver> {
      const answer = FAILURES[mail.to.address.split('@')[0]!.toLowerCase()]
      if (answer) return { kind: 'refused', answer }
      store.deliver({
        messageRef: mail.messageId, toAddress: mail.to.address, toName: mail.to.name, subject: mail.subject, source, at: mail.at,
        attached: mail.attached ?? [],
      })
      return { kind: 'accepted' }
    },
    async close() {},
  }
}
