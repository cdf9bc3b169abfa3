/** Saying yes to an opt-in by email: what is asked, how long, and what becomes of each way of answering. */
import type { MessageContent, Line } from '#core/message/content'
import { DAY, HOUR, MINUTE, type Instant } from '#core/time/zone'
import { paragraphs, type PageText } from './text'

/** Whom a page asks to confirm. Nobody in between: what is typed about somebody known is as uncertain as anything else that is typed. */
export const WHO_CONFIRMS = ['everybody', 'nobody'] as const
export type WhoConfirms = typeof WHO_CONFIRMS[number]

export interface Confirming {
  who: WhoConfirms
  /** Its own button leads to the yes. */
  mail: MessageContent
  /** Stands over the same email the second and last time; null for no reminder. */
  reminder: { subject: Line, afterHours: number } | null
  /** Days of 24 hours, from the latest press of the page's button. */
  withinDays: number
  waitHeadline: string
  waitText: PageText
}

export interface ConfirmationRequest { state: 'waiting' | 'confirmed' | 'expired' | 'withdrawn', expiresAt: Instant }

/** What comes of following the link of a confirmation email. */
export type ConfirmOutcome =
  /** The yes counts: from now on they are in. */
  | 'counts'
  /** They have said yes before: nothing happens a second time. */
  | 'counted-already'
  /** Its time is over: nothing is given, and a new email can be asked for with one press. */
  | 'too-late'
  /** They have left everything since, and leaving is the stricter word: nothing is given; only opting in anew brings them back. */
  | 'left-since'

/** The written table. Exactly at its last moment a yes still counts. */
export function outcomeOf({ state, expiresAt }: ConfirmationRequest, now: Instant): ConfirmOutcome {
  switch (state) {
    case 'confirmed': return 'counted-already'
    case 'withdrawn': return 'left-since'
    case 'expired': return 'too-late'
    case 'waiting': return now <= expiresAt ? 'counts' : 'too-late'
  }
}

export interface ConfirmationTimes { expiresAt: Instant, remindAt: Instant | null }

/** The times of an asking that begins now. A reminder that would come when it is over is left out. */
export function confirmationTimes({ withinDays, reminder }: Pick<Confirming, 'withinDays' | 'reminder'>, now: Instant): ConfirmationTimes {
  const expiresAt = now + withinDays * DAY
  const remindAt = reminder && now + reminder.afterHours * HOUR
  return { expiresAt, remindAt: remindAt !== null && remindAt < expiresAt ? remindAt : null }
}

/** When something is to be done next: the reminder, else its end, just after the last moment at which a yes counts. */
export const nextOfConfirmation = ({ expiresAt, remindAt }: ConfirmationTimes): Instant => remindAt ?? expiresAt + 1

/** Who presses the page's button again gets another email only after so long: the first may still be on its way. */
export const SAME_AGAIN_AFTER = 10 * MINUTE

/** At most so many askings go to one address in 24 hours, over all pages: nobody's mailbox can be filled by typing their address. */
export const MOST_REQUESTS_A_DAY = 5

export const newConfirming = (): Confirming => ({
  who: 'everybody',
  mail: {
    workingTitle: 'Please confirm',
    subject: [{ type: 'text', text: 'Please confirm, and it’s yours' }],
    preview: [{ type: 'text', text: 'So that we know this address is really yours.' }],
    body: { type: 'doc', content: [
      { type: 'paragraph', content: [{ type: 'text', text: 'Hello and welcome,' }] },
      { type: 'paragraph', content: [{
        type: 'text',
        text: 'you asked for something on our page. Please confirm that it was you.',
      }] },
      { type: 'ownButton', attrs: { label: 'Yes, it was me' } },
      { type: 'paragraph', content: [{ type: 'text', text: 'If it was not you, you need do nothing at all.' }] },
    ] },
  },
  reminder: { subject: [{ type: 'text', text: 'Do you still want it?' }], afterHours: 24 },
  withinDays: 7,
  waitHeadline: 'One more step',
  waitText: paragraphs('We have sent you an email. Click the button in it, and the rest follows.'),
})
