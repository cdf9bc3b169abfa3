/**
 * Source: R. G. Newcombe, "Two-sided confidence intervals for the single
 * proportion", Statistics in Medicine 17 (1998), 857-872, table I, method 3
 * (Wilson score, no continuity correction). Values from memory of that table.
 * The rates: common practice, no source.
 */
import { describe, expect, it } from 'vitest'
import { rateOf } from '#core/stats/rate'

describe('intervals', () => {
  it.each([
    [81, 263, 0.2553, 0.3662],
    [15, 148, 0.0624, 0.1605],
    [0, 20, 0, 0.1611],
    [1, 29, 0.0061, 0.1718],
  ])('%i of %i is %f to %f', (part, whole, low, high) => {
    const rate = rateOf(part, whole)
    expect(rate.low).toBeCloseTo(low, 4)
    expect(rate.high).toBeCloseTo(high, 4)
  })
})

describe('rates', () => {
  it('17 sent, 10 opened, 0 clicked is 58.8 % and 0 %', () => {
    expect((rateOf(10, 17).value! * 100).toFixed(1)).toBe('58.8')
    expect(rateOf(0, 17).value).toBe(0)
  })
})
