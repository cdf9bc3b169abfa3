/**
 * Source: R. G. Newcombe, "Two-sided confidence intervals for the single
 * proportion", Statistics in Medicine 17 (1998), 857-872, table I, method 3
 * (Wilson score, no continuity correction). Values from memory of that table.
 * The rates: common practice, no source.
 */
import { describe, expect, it } from 'vitest'
import fc from 'fast-check'
import { compared, differenceOf, together } from '#core/stats/difference'
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

describe('a difference of two rates', () => {
  // R. G. Newcombe, Statistics in Medicine 17 (1998), 873-890, method 10, 56 of 70 against 48 of 80 (values from memory).
  it('has the interval of method 10', () => {
    const { value, low, high } = differenceOf(rateOf(56, 70), rateOf(48, 80))!
    expect([value, low, high].map(n => n.toFixed(4))).toEqual(['0.2000', '0.0524', '0.3339'])
  })
  it('is the other way round the other way round, and holds zero wherever the rates are alike', () => {
    const anyRate = fc.nat(500).chain(part => fc.integer({ min: Math.max(1, part), max: 1000 }).map(whole => rateOf(part, whole)))
    fc.assert(fc.property(anyRate, anyRate, (one, other) => {
      const opposite = { more: 'fewer', fewer: 'more', unclear: 'unclear' } as const
      expect(compared(other, one)).toBe(opposite[compared(one, other)])
      const { value, low, high } = differenceOf(one, other)!
      expect(low).toBeLessThanOrEqual(value + 1e-12)
      expect(high).toBeGreaterThanOrEqual(value - 1e-12)
      expect(together([one, other])).toMatchObject({ part: one.part + other.part, whole: one.whole + other.whole })
    }))
    expect(differenceOf(rateOf(0, 0), rateOf(1, 2))).toBeNull()
  })
})
