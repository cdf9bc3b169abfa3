import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { waitAfter } from '#core/sending/retry'
import { verdictOf, type Answer, type Stage } from '#core/sending/verdict'
import { addsUp, waveOf, WAVE_RULE, type Answered } from '#core/sending/wave'
import { judgeClick, judgeOpen } from '#core/reading/judge'

describe('what a mail server\'s answer means', () => {
  const anyAnswer: fc.Arbitrary<Answer> = fc.record({
    stage: fc.constantFrom<Stage>('connect', 'sign-in', 'sender', 'recipient', 'data', 'after-data'),
    code: fc.option(fc.integer({ min: 200, max: 599 })),
    text: fc.oneof(fc.string(), fc.tuple(fc.constantFrom(4, 5), fc.nat(9), fc.nat(30)).map(parts => parts.join('.'))),
  })

  it('is never about a person but at RCPT or with the whole email, and never stops everything there but for a sign-in that is wanted', () => {
    fc.assert(fc.property(anyAnswer, (answer) => {
      const verdict = verdictOf(answer)
      if (verdict.kind === 'refused' && verdict.about === 'address') {
        expect(['recipient', 'data', 'after-data'].includes(answer.stage) && answer.code! >= 500).toBe(true)
      }
      if (verdict.kind === 'stop-carrier' && answer.stage === 'recipient') expect([530, 534, 535, 538]).toContain(answer.code)
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

describe('a wave of refusals', () => {
  const MINUTE = 60_000
  /** Newest first, a minute apart. */
  const answers = (...said: [domain: string, about: Answered['about']][]): Answered[] =>
    said.map(([domain, about], n) => ({ id: n, at: 1e9 - n * MINUTE, domain, about }))

  it.each<[string, Answered[], ReturnType<typeof waveOf>]>([
    ['one refusal is none', answers(['a', 'policy']), null],
    [
      'three alike from three domains stop the carrier', answers(['a', 'policy'], ['b', 'policy'], ['c', 'policy']),
      { kind: 'carrier', ids: [0, 1, 2] },
    ],
    ['also among many that were taken', answers(
      ['a', 'policy'], ...Array.from({ length: 5 }, (): [string, 'accepted'] => ['d', 'accepted']), ['b', 'policy'], ['c', 'policy'],
    ), { kind: 'carrier', ids: [0, 6, 7] }],
    ['not alike are none', answers(['a', 'policy'], ['b', 'unclear'], ['c', 'address']), null],
    ['two domains are too few', answers(['a', 'policy'], ['b', 'policy'], ['a', 'policy']), null],
    ['addresses that are not there are ordinary among many that are', answers(
      ['a', 'address'], ['b', 'accepted'], ['c', 'accepted'], ['d', 'address'], ['e', 'accepted'], ['f', 'accepted'], ['g', 'address'],
    ), null],
    [
      'and a wave where they are half of all', answers(['a', 'address'], ['b', 'address'], ['c', 'address'], ['d', 'accepted']),
      { kind: 'carrier', ids: [0, 1, 2] },
    ],
    ['full mailboxes never are', answers(['a', 'mailbox'], ['b', 'mailbox'], ['c', 'mailbox']), null],
    [
      'five of ten at one domain stop that domain',
      answers(...Array.from({ length: 10 }, (_, n): [string, 'policy' | 'accepted'] => ['a', n % 2 ? 'accepted' : 'policy'])),
      { kind: 'domain', domain: 'a', ids: [0, 2, 4, 6, 8] },
    ],
    [
      'four of ten do not',
      answers(...Array.from({ length: 10 }, (_, n): [string, 'policy' | 'accepted'] => ['a', n < 4 ? 'policy' : 'accepted'])), null,
    ],
  ])('%s', (_, said, wave) => {
    expect(waveOf(said, WAVE_RULE)).toEqual(wave)
  })

  it('is over after ten minutes', () => {
    const [first, second, third] = answers(['a', 'policy'], ['b', 'policy'], ['c', 'policy']) as [Answered, Answered, Answered]
    expect(waveOf([first, second, { ...third, at: first.at - 10 * MINUTE }], WAVE_RULE)?.kind).toBe('carrier')
    expect(waveOf([first, second, { ...third, at: first.at - 10 * MINUTE - 1 }], WAVE_RULE)).toBeNull()
  })

  it('soft refusals add up to a bounce: five within 14 days', () => {
    const DAY = 24 * 60 * MINUTE
    const days = (...ago: number[]) => ago.map(n => 1e12 - n * DAY)
    expect(addsUp(days(0, 3, 6, 9), 1e12, WAVE_RULE)).toBe(false)
    expect(addsUp(days(0, 3, 6, 9, 13.9), 1e12, WAVE_RULE)).toBe(true)
    expect(addsUp(days(0, 3, 6, 9, 14), 1e12, WAVE_RULE)).toBe(false)
  })
})

describe('telling readers from machines', () => {
  const open = { agent: 'Mozilla/5.0', robot: false, at: 100_000, sentAt: 0 }
  it.each([
    [{}, 'reader'], [{ at: 2000 }, 'prefetch'], [{ robot: true }, 'scanner'], [{ agent: 'x GoogleImageProxy', at: 30_000 }, 'prefetch'],
    [{ agent: 'x GoogleImageProxy', at: 90_000 }, 'reader'],
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
    expect([
      judgeClick(click(0, 60_000), [click(1, 61_000)], false, 0, 2), judgeClick(click(0, 60_000), [click(1, 61_000)], false, 0, 3),
      judgeClick(click(0, 60_000), [], false, 0, 1),
    ]).toEqual(['scanner', 'reader', 'reader'])
  })
})
