/**
 * What a mail server's answer means for the email, the person and the carrier.
 * This is the one place that decides what is worth another try.
 *
 * Reply codes: RFC 5321 section 4.2; enhanced codes: RFC 3463.
 */

/** Where in the conversation the answer came. */
export type Stage = 'connect' | 'sign-in' | 'sender' | 'recipient' | 'data' | 'after-data'

export interface Answer {
  stage: Stage
  /** Three digits, or null if the line broke or nothing came in time. */
  code: number | null
  /** What the server said, for the owner to read. */
  text: string
}

export type Verdict =
  /** This address does not take mail, for good: the person is bounced. */
  | { kind: 'refused-recipient' }
  /** The server does not take mail from us: all sending stops until the owner has looked. */
  | { kind: 'stop-carrier' }
  /** Only this email is refused, for good; neither the person nor the carrier is to blame. */
  | { kind: 'refused-email' }
  /** Try again later. `carrierIsDown`: nothing else will get through either. */
  | { kind: 'try-again', carrierIsDown: boolean }
  /** The line broke after the whole email was sent: it may have arrived, so a further try may be a repeat. */
  | { kind: 'unknown' }

/** RFC 3463 class 5 codes that speak of the mailbox or its address, not of us. */
const ABOUT_THE_ADDRESS = /\b5\.(1\.(?:0|1|2|3|6|9|10)|2\.(?:0|1))\b/
/** RFC 3463 X.7.*: security or policy. X.1.7 and X.1.8: the sender's address. */
const ABOUT_US = /\b5\.(7\.\d+|1\.[78])\b/

export function verdictOf(answer: Answer): Verdict {
  const { stage, code, text } = answer
  if (stage === 'after-data' && (code === null || code < 400)) return { kind: 'unknown' }
  if (code === null || code < 400) return { kind: 'try-again', carrierIsDown: true }
  if (code < 500) {
    // 421 closes the channel (RFC 5321 section 3.8): the next email would meet the same.
    return { kind: 'try-again', carrierIsDown: code === 421 || stage === 'connect' || stage === 'sign-in' }
  }
  if (stage === 'connect' || stage === 'sign-in' || stage === 'sender' || ABOUT_US.test(text)) return { kind: 'stop-carrier' }
  if (stage === 'recipient') {
    // A bare 550, 551 or 553 at RCPT is about the mailbox; 552 is a full one, 554 is any refusal.
    const aboutAddress = ABOUT_THE_ADDRESS.test(text) || (!/\b5\.\d+\.\d+\b/.test(text) && [550, 551, 553].includes(code))
    return aboutAddress ? { kind: 'refused-recipient' } : { kind: 'refused-email' }
  }
  return { kind: 'refused-email' }
}
