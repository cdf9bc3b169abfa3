/**
 * What mail servers answer, and what that means. Codes and their meanings: RFC
 * 5321 section 4.2.3, RFC 3463 sections 3.1 to 3.8, RFC 5248, RFC 4954 section
 * 6, RFC 7372, RFC 7504, RFC 7505, RFC 6531 section 3.5. The words are made up
 * in the manner of servers (common practice, no source).
 */
import { expect, it } from 'vitest'
import { verdictOf, type Stage } from '#core/sending/verdict'

type Meaning = 'address' | 'mailbox' | 'policy' | 'message' | 'unclear' | 'stop' | 'later' | 'domain' | 'slower' | 'line' | 'unknown'

const ROWS: [source: string, stage: Stage, code: number | null, text: string, meaning: Meaning][] = [
  // The address is not there.
  ['RFC 3463 X.1.1', 'recipient', 550, '550 5.1.1 No such mailbox', 'address'],
  ['RFC 3463 X.1.1', 'recipient', 550, '550-5.1.1 The email account that you tried to reach does not exist', 'address'],
  ['RFC 3463 X.1.2', 'recipient', 550, '550 5.1.2 Bad destination system address', 'address'],
  ['RFC 3463 X.1.3', 'recipient', 553, '553 5.1.3 Bad address syntax', 'address'],
  ['RFC 3463 X.1.6', 'recipient', 551, '551 5.1.6 Mailbox has moved, no forwarding address', 'address'],
  ['RFC 7505 section 4.2', 'recipient', 556, '556 5.1.10 Recipient address has null MX', 'address'],
  ['RFC 7504 section 3', 'recipient', 556, '556 Domain does not accept mail', 'address'],
  ['RFC 3463 X.2.1', 'recipient', 550, '550 5.2.1 Mailbox disabled, not accepting messages', 'address'],
  ['RFC 3463 X.4.4', 'recipient', 550, '550 5.4.4 Unable to route: no mail hosts for domain', 'address'],
  ['RFC 3463 X.1.0', 'recipient', 550, '550 5.1.0 Address rejected', 'address'],
  ['RFC 5321 4.2.3, 550', 'recipient', 550, '550 No such user here', 'address'],
  ['RFC 5321 4.2.3, 550', 'recipient', 550, '550 Unknown user', 'address'],
  [
    'RFC 5321 4.2.3, 550', 'recipient', 550, '550 <ada@example.com>: Recipient address rejected: User unknown in local recipient table',
    'address',
  ],
  ['RFC 5321 4.2.3, 550', 'recipient', 550, '550 mailbox unavailable', 'address'],
  ['RFC 5321 4.2.3, 550', 'recipient', 550, '550 Requested action not taken: mailbox not found', 'address'],
  ['RFC 5321 4.2.3, 550', 'recipient', 550, '550 This user doesn’t have a post.example.com account', 'address'],
  ['RFC 5321 4.2.3, 551', 'recipient', 551, '551 User not local; please try elsewhere', 'address'],
  ['RFC 5321 4.2.3, 553', 'recipient', 553, '553 sorry, invalid mailbox', 'address'],
  ['RFC 5321 4.2.3, 550', 'recipient', 554, '554 delivery error: this user does not exist', 'address'],
  ['RFC 5321 4.2.3, 550', 'recipient', 550, '550 Account disabled', 'address'],
  ['RFC 3463 X.1.1 after DATA', 'after-data', 550, '550 5.1.1 User unknown', 'address'],
  ['RFC 3463 X.1.1 after DATA', 'data', 554, '554 5.1.1 No valid recipients', 'address'],
  // The mailbox is full, or does not take this.
  ['RFC 3463 X.2.2', 'recipient', 552, '552 5.2.2 Mailbox full', 'mailbox'],
  ['RFC 3463 X.2.2', 'recipient', 550, '550 5.2.2 Over quota', 'mailbox'],
  ['RFC 3463 X.2.2', 'after-data', 552, '552 5.2.2 User is over quota', 'mailbox'],
  ['RFC 3463 X.2.3', 'recipient', 552, '552 5.2.3 Message length exceeds administrative limit', 'mailbox'],
  ['RFC 3463 X.2.0', 'recipient', 550, '550 5.2.0 Other mailbox status', 'mailbox'],
  ['RFC 3463 X.2.4', 'recipient', 550, '550 5.2.4 Mailing list expansion problem', 'mailbox'],
  ['RFC 5321 4.2.3, 552', 'recipient', 552, '552 Exceeded storage allocation', 'mailbox'],
  // A policy, or a block list: it says nothing of the person.
  ['RFC 3463 X.7.1', 'recipient', 550, '550 5.7.1 Recipient rejected', 'policy'],
  ['RFC 3463 X.7.1', 'recipient', 554, '554 5.7.1 Delivery not authorized', 'policy'],
  ['RFC 7372, X.7.23', 'recipient', 550, '550 5.7.23 SPF validation failed', 'policy'],
  ['RFC 7372, X.7.25', 'recipient', 550, '550 5.7.25 Reverse DNS validation failed', 'policy'],
  ['RFC 7372, X.7.26', 'recipient', 550, '550 5.7.26 Unauthenticated mail is not accepted', 'policy'],
  ['RFC 3463 X.1.7', 'recipient', 550, '550 5.1.7 Bad sender mailbox address syntax', 'policy'],
  ['RFC 3463 X.1.8', 'recipient', 550, '550 5.1.8 Bad sender system address', 'policy'],
  ['common practice', 'recipient', 550, '550 Your host 192.0.2.7 is listed at bl.example', 'policy'],
  ['common practice', 'recipient', 550, '550 rejected as spam', 'policy'],
  ['common practice', 'recipient', 554, '554 Blocked, see https://bl.example/192.0.2.7', 'policy'],
  ['common practice', 'recipient', 550, '550 blacklisted', 'policy'],
  ['common practice', 'recipient', 550, '550 5.1.1 Rejected by policy, user unknown to our reputation service', 'policy'],
  ['common practice', 'recipient', 553, '553 SPF fail', 'policy'],
  ['common practice', 'recipient', 554, '554 5.7.1 Relay access denied', 'policy'],
  ['common practice', 'recipient', 550, '550 relaying denied', 'policy'],
  ['common practice', 'recipient', 550, '550 Message rejected under suspicion of abuse', 'policy'],
  ['common practice', 'after-data', 554, '554 5.7.1 Message looks like spam', 'policy'],
  ['common practice', 'after-data', 550, '550 DMARC policy of the domain says reject', 'policy'],
  ['RFC 3463 X.7.1', 'data', 554, '554 5.7.1 Security problem', 'policy'],
  // It does not say.
  ['RFC 5321 4.2.3, 550', 'recipient', 550, '550 Requested action not taken', 'unclear'],
  ['RFC 5321 4.2.3, 554', 'recipient', 554, '554 Transaction failed', 'unclear'],
  ['RFC 5321 4.2.3, 554', 'recipient', 554, '554 No', 'unclear'],
  ['RFC 3463 X.0.0', 'recipient', 550, '550 5.0.0 Undefined', 'unclear'],
  ['RFC 3463 X.4.1', 'recipient', 550, '550 5.4.1 No answer from host', 'unclear'],
  ['common practice', 'recipient', 550, '550 Sorry', 'unclear'],
  ['RFC 7504 section 2', 'recipient', 521, '521 Server does not take mail', 'unclear'],
  // The message.
  ['RFC 3463 X.3.4', 'after-data', 552, '552 5.3.4 Message too big for system', 'message'],
  ['RFC 1870 section 6.1', 'sender', 552, '552 Message size exceeds fixed maximum message size', 'message'],
  ['RFC 3463 X.3.4', 'sender', 552, '552 5.3.4 Message too big', 'message'],
  ['RFC 3463 X.6.0', 'after-data', 554, '554 5.6.0 Malformed message', 'message'],
  ['RFC 3463 X.6.0', 'data', 554, '554 5.6.0 Content not understood', 'message'],
  ['RFC 6531 section 3.5', 'recipient', 553, '553 5.6.7 Address needs SMTPUTF8', 'message'],
  ['RFC 5321 4.2.3, 554', 'after-data', 554, '554 Transaction failed', 'message'],
  ['RFC 3463 X.5.4', 'recipient', 501, '501 5.5.4 Invalid parameters', 'message'],
  // Us: sending stops.
  ['RFC 4954 section 6', 'sign-in', 535, '535 5.7.8 Authentication credentials invalid', 'stop'],
  ['RFC 4954 section 6', 'sender', 530, '530 5.7.0 Authentication required', 'stop'],
  ['RFC 4954 section 6', 'recipient', 530, '530 5.7.0 Authentication required', 'stop'],
  ['RFC 4954 section 6', 'recipient', 530, '530 Please sign in first', 'stop'],
  ['RFC 4954 section 6', 'sign-in', 534, '534 5.7.9 Mechanism is too weak', 'stop'],
  ['RFC 4954 section 6', 'sender', 538, '538 5.7.11 Encryption required', 'stop'],
  ['RFC 5321 section 3.1', 'connect', 554, '554 No SMTP service here', 'stop'],
  ['RFC 7504 section 2', 'connect', 521, '521 Host does not accept mail', 'stop'],
  ['RFC 3463 X.1.8', 'sender', 550, '550 5.1.8 Sender unknown', 'stop'],
  ['RFC 5321 4.2.3, 553', 'sender', 553, '553 Not your address', 'stop'],
  ['RFC 3463 X.7.1', 'sender', 550, '550 5.7.1 We take no mail from you', 'stop'],
  ['RFC 5321 4.2.3, 550', 'sender', 550, '550 Go away', 'stop'],
  // Later.
  ['RFC 5321 4.2.3, 450', 'recipient', 450, '450 4.2.1 Mailbox busy', 'later'],
  ['RFC 6647 section 2', 'recipient', 451, '451 4.7.1 Greylisted, come back in five minutes', 'later'],
  ['RFC 5321 4.2.3, 451', 'recipient', 451, '451 Local error in processing', 'later'],
  ['RFC 5321 4.2.3, 452', 'after-data', 452, '452 4.3.1 Insufficient system storage', 'later'],
  ['RFC 3463 X.2.2', 'recipient', 452, '452 4.2.2 Mailbox full', 'later'],
  ['RFC 5321 section 3.8', 'recipient', 421, '421 4.3.2 Closing the channel', 'slower'],
  ['RFC 5321 section 3.8', 'connect', 421, '421 Too busy', 'slower'],
  ['RFC 4954 section 6', 'sign-in', 454, '454 4.7.0 Temporary authentication failure', 'slower'],
  ['common practice', 'recipient', 450, '450 4.7.0 Too many messages from you, slow down', 'domain'],
  ['common practice', 'after-data', 451, '451 4.7.28 Rate limit exceeded the quota', 'domain'],
  ['common practice', 'sender', 452, '452 4.3.2 Please try again', 'slower'],
  ['RFC 5321 section 4.5.3.2', 'connect', null, 'no answer in time', 'line'],
  ['RFC 5321 section 4.5.3.2', 'recipient', null, 'the line broke', 'line'],
  ['RFC 5321 section 4.5.3.2', 'data', null, 'the line broke', 'line'],
  // It may have arrived.
  ['RFC 5321 section 6.1', 'after-data', null, 'the line broke', 'unknown'],
  ['RFC 1047', 'after-data', null, 'no answer within ten minutes', 'unknown'],
]

it.each(ROWS)('%s: %s %s %j means %s', (_source, stage, code, text, meaning) => {
  const verdict = verdictOf({ stage, code, text })
  const said: Meaning = verdict.kind === 'refused' ? verdict.about : verdict.kind === 'stop-carrier'
    ? 'stop'
    : verdict.kind === 'unknown'
      ? 'unknown'
      : ({ recipient: 'later', domain: 'domain', server: 'slower', line: 'line' } as const)[verdict.about]
  expect(said).toBe(meaning)
})

it('are eighty and more', () => {
  expect(ROWS.length).toBeGreaterThanOrEqual(80)
})
