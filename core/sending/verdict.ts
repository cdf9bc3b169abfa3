/**
 * What a mail server's answer means for the email, the person and the carrier.
 * This is the one place that decides what is worth another try.
 *
 * Reply codes: RFC 5321 section 4.2; enhanced codes: RFC 3463 with the
 * registry of RFC 5248; refusing all mail: RFC 7504 and RFC 7505.
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

/** What a lasting refusal of one email speaks of: whether several of them are alike is told by this. */
export type Refusal =
  /** The address: nobody is there. */
  | 'address'
  /** The mailbox: full, or not taking this. */
  | 'mailbox'
  /** Us, by a policy or a block list; it says nothing of the person. */
  | 'policy'
  /** This message: too big, malformed. */
  | 'message'
  /** It does not say. */
  | 'unclear'

export type Verdict =
  /** This email is refused for good. `address`: the person is bounced, unless it was part of a wave. */
  | { kind: 'refused', about: Refusal }
  /** The server does not take mail from us at all: sending stops until the owner has looked. */
  | { kind: 'stop-carrier' }
  /**
   * Try again later. `recipient`: only this one; `domain`: so many are too
   * many for its domain just now; `server`: the server we speak to asks us to
   * go slower; `line`: nobody answers, nothing else will get through either.
   */
  | { kind: 'try-again', about: 'recipient' | 'domain' | 'server' | 'line' }
  /** The line broke after the whole email was sent: it may have arrived, so a further try may be a repeat. */
  | { kind: 'unknown' }

/** Authentication is wanted or has failed: RFC 4954 section 6. It says so at any stage. */
const SIGN_IN_CODES = [530, 534, 535, 538]
/** Mailboxes and addresses that are not there: RFC 3463 X.1.0 to X.1.3, X.1.6, X.2.1; RFC 7505 X.1.10; no route X.4.4. */
const ABOUT_THE_ADDRESS = /^5\.(1\.(0|1|2|3|6|10)|2\.1|4\.4)$/
/** Full, or not taking it: RFC 3463 X.2.0, X.2.2 to X.2.4. */
const ABOUT_THE_MAILBOX = /^[45]\.2\.(0|2|3|4)$/
/** RFC 3463 X.7.*: security or policy. X.1.7 and X.1.8: the sender's address. RFC 7372, RFC 7489. */
const ABOUT_US = /^[45]\.(7\.\d+|1\.[78])$/
const ABOUT_THE_MESSAGE = /^5\.(3\.4|6\.\d+|5\.\d+|9\.\d+)$/

/** Words of policies and block lists, which servers send with any code (common practice, no source). */
const POLICY_WORDS =
  /black ?-?list|block ?-?list|\bblocked\b|\blisted (at|in|on|by)\b|\b(rbl|dnsbl|spf|dkim|dmarc)\b|\bspam|reputation|polic(y|ies)|unauthenticated|not authori[sz]ed|authentication required|relay(ing)? (access )?denied|relay not permitted|unable to relay|\bbanned\b|\babus(e|ive)\b|unsolicited|reverse dns|ptr record/i
/** Words that say nobody is there (common practice, no source). */
const NOBODY_WORDS =
  /(no such|unknown|invalid|unrouteable|nonexistent|non-existent|not a valid) (local )?(user|recipient|mailbox|address|account|person|domain)|(user|recipient|mailbox|address|account|person)( address)? (is )?(unknown|not found|not known|unavailable|disabled|inactive|invalid|rejected: undeliverable|does ?n.t exist|does not exist|not exist)|doesn.t have an? .*account|no mailbox here|user not local|does not accept mail/i
/** Words by which servers ask for fewer messages (common practice, no source). */
const SLOWER_WORDS = /too many|too fast|rate limit|rate.?limited|throttl|slow down|exceeded the|deferred due to volume/i

export function verdictOf(answer: Answer): Verdict {
  const { stage, code, text } = answer
  if (stage === 'after-data' && (code === null || code < 400)) return { kind: 'unknown' }
  if (code === null || code < 400) return { kind: 'try-again', about: 'line' }
  return code < 500 ? { kind: 'try-again', about: putOffBy(answer) } : refusalOf({ stage, code, text })
}

/**
 * 421 closes the channel (RFC 5321 section 3.8): the next email on it would meet the same. Once a recipient is named, what else asks for
 * fewer is about the domain of that recipient: relays pass on what they are told there.
 */
function putOffBy({ stage, code, text }: Answer): 'recipient' | 'domain' | 'server' {
  if (code === 421 || stage === 'connect' || stage === 'sign-in' || stage === 'sender') return 'server'
  return SLOWER_WORDS.test(text) ? 'domain' : 'recipient'
}

function refusalOf({ stage, code, text }: Answer & { code: number }): Verdict {
  if (stage === 'connect' || stage === 'sign-in' || SIGN_IN_CODES.includes(code)) return { kind: 'stop-carrier' }
  const enhanced = /\b[45]\.\d{1,3}\.\d{1,3}\b/.exec(text)?.[0] ?? ''
  if (stage === 'sender') {
    return code === 552 || ABOUT_THE_MESSAGE.test(enhanced) ? { kind: 'refused', about: 'message' } : { kind: 'stop-carrier' }
  }
  return { kind: 'refused', about: stage === 'recipient' ? aboutRecipient(code, enhanced, text) : aboutData(enhanced, text) }
}

/** At RCPT, a refusal concerns this recipient, whatever its reason: one of them never stops the others. */
function aboutRecipient(code: number, enhanced: string, text: string): Refusal {
  if (ABOUT_US.test(enhanced) || POLICY_WORDS.test(text)) return 'policy'
  if (ABOUT_THE_ADDRESS.test(enhanced) || code === 556) return 'address'
  if (ABOUT_THE_MAILBOX.test(enhanced) || code === 552) return 'mailbox'
  if (ABOUT_THE_MESSAGE.test(enhanced) && !NOBODY_WORDS.test(text)) return 'message'
  return NOBODY_WORDS.test(text) ? 'address' : 'unclear'
}

function aboutData(enhanced: string, text: string): Refusal {
  if (ABOUT_US.test(enhanced) || POLICY_WORDS.test(text)) return 'policy'
  if (ABOUT_THE_ADDRESS.test(enhanced)) return 'address'
  return ABOUT_THE_MAILBOX.test(enhanced) ? 'mailbox' : 'message'
}
