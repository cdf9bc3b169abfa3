import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { waitAfter } from '#core/outbox/retry'
import { type Answer, type Stage, type Verdict, verdictOf } from '#core/outbox/verdict'
import { judgeClick, judgeOpen } from '#core/reading/judge'

describe('what a mail server\'s answer means', () => {
  // Reply codes of RFC 5321 section 4.2.3, enhanced codes of RFC 3463; the texts are invented.
  it.each<[Stage, number | null, string, Verdict['kind']]>([
    ['recipient', 550, '550 5.1.1 No such mailbox', 'refused-recipient'],
    ['recipient', 550, '550 No such user', 'refused-recipient'],
    ['recipient', 551, '551 User not local', 'refused-recipient'],
    ['recipient', 553, '553 5.1.3 Bad address syntax', 'refused-recipient'],
    ['recipient', 550, '550 5.1.10 Recipient address has null MX', 'refused-recipient'],
    ['recipient', 550, '550 5.2.1 Mailbox disabled', 'refused-recipient'],
    ['recipient', 552, '552 5.2.2 Mailbox full', 'refused-email'],
    ['recipient', 554, '554 No', 'refused-email'],
    ['recipient', 550, '550 5.7.1 Blocked by policy', 'stop-carrier'],
    ['recipient', 550, '550 5.1.8 Bad sender address', 'stop-carrier'],
    ['sender', 550, '550 5.1.8 Sender unknown', 'stop-carrier'],
    ['sender', 553, '553 Not your address', 'stop-carrier'],
    ['sign-in', 535, '535 5.7.8 Authentication failed', 'stop-carrier'],
    ['connect', 554, '554 No service here', 'stop-carrier'],
    ['data', 554, '554 5.6.0 Malformed', 'refused-email'],
    ['after-data', 554, '554 5.7.1 Rejected as spam', 'stop-carrier'],
    ['after-data', 552, '552 5.3.4 Too big', 'refused-email'],
    ['recipient', 450, '450 4.2.1 Busy', 'try-again'],
    ['recipient', 451, '451 Greylisted', 'try-again'],
    ['after-data', 452, '452 4.3.1 Full', 'try-again'],
    ['connect', null, 'timeout', 'try-again'],
    ['recipient', null, 'closed', 'try-again'],
    ['data', null, 'closed', 'try-again'],
    ['after-data', null, 'closed', 'unknown'],
  ])('%s %s %j: %s', (stage, code, text, kind) => {
    expect(verdictOf({ stage, code, text }).kind).toBe(kind)
  })

  it('never blames a person for anything but a lasting refusal at RCPT', () => {
    const anyAnswer: fc.Arbitrary<Answer> = fc.record({
      stage: fc.constantFrom<Stage>('connect', 'sign-in', 'sender', 'recipient', 'data', 'after-data'),
      code: fc.option(fc.integer({ min: 200, max: 599 })), text: fc.oneof(fc.string(), fc.tuple(fc.constantFrom(4, 5), fc.nat(9), fc.nat(30)).map(parts => parts.join('.'))),
    })
    fc.assert(fc.property(anyAnswer, (answer) => {
      const verdict = verdictOf(answer)
      if (verdict.kind === 'refused-recipient') expect(answer.stage === 'recipient' && answer.code! >= 500).toBe(true)
      if (verdict.kind === 'unknown') expect(answer.stage).toBe('after-data')
    }))
  })

  it('waits longer after each try, from a minute to six hours', () => {
    const waits = Array.from({ length: 20 }, (_, n) => waitAfter(n + 1))
    expect(waits[0]).toBe(60_000)
    expect(waits.at(-1)).toBe(6 * 3_600_000)
    expect([...waits].sort((a, b) => a - b)).toEqual(waits)
  })
})

describe('telling readers from machines', () => {
  const open = { agent: 'Mozilla/5.0', robot: false, at: 100_000, sentAt: 0 }
  it.each([
    [{}, 'reader'], [{ at: 2000 }, 'prefetch'], [{ robot: true }, 'scanner'], [{ agent: 'x GoogleImageProxy', at: 30_000 }, 'prefetch'], [{ agent: 'x GoogleImageProxy', at: 90_000 }, 'reader'],
  ] as const)('an open %o is judged %s', (part, judged) => {
    expect(judgeOpen({ ...open, ...part })).toBe(judged)
  })

  it('a click is a scanner\'s if it is known, too quick, or one of three links at once', () => {
    const click = (linkN: number, at: number) => ({ linkN, at })
    expect(judgeClick(click(0, 60_000), [], false, 0, 9)).toBe('reader')
    expect(judgeClick(click(0, 60_000), [], true, 0, 9)).toBe('scanner')
    expect(judgeClick(click(0, 4999), [], false, 0, 9)).toBe('scanner')
    expect(judgeClick(click(0, 60_000), [click(1, 61_000), click(2, 64_000)], false, 0, 9)).toBe('scanner')
    expect(judgeClick(click(0, 60_000), [click(1, 61_000), click(2, 65_001)], false, 0, 9)).toBe('reader')
    expect(judgeClick(click(0, 60_000), [click(0, 61_000), click(0, 62_000)], false, 0, 9)).toBe('reader')
    // All that the email has, however few.
    expect([judgeClick(click(0, 60_000), [click(1, 61_000)], false, 0, 2), judgeClick(click(0, 60_000), [click(1, 61_000)], false, 0, 3), judgeClick(click(0, 60_000), [], false, 0, 1)]).toEqual(['scanner', 'reader', 'reader'])
  })
})
