/**
 * Prices against the outside: rounding against decimal.js, an arbitrary-precision
 * decimal library (its ROUND_HALF_EVEN), and renewals against the calendar
 * arithmetic of Temporal (TC39 proposal, "constrain" as its way with days that a
 * month does not have), as its polyfill works it out.
 */
import { Temporal } from '@js-temporal/polyfill'
import { Decimal } from 'decimal.js'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { share } from '#core/money/divide'
import { MOST_AMOUNT, perHead } from '#core/money/money'
import { cutPrice } from '#core/offers/coupon'
import { dueAt } from '#core/offers/price'

const Exact = Decimal.clone({ precision: 60, rounding: Decimal.ROUND_HALF_EVEN })
const anyAmount = fc.integer({ min: 0, max: MOST_AMOUNT })

describe('rounding', () => {
  it('of a price with a percentage off is decimal’s half to even', () => {
    fc.assert(fc.property(anyAmount, fc.integer({ min: 1, max: 10_000 }), (amount, hundredths) => {
      const exact = new Exact(amount).times(new Exact(10_000 - hundredths)).dividedBy(10_000).toDecimalPlaces(0, Decimal.ROUND_HALF_EVEN)
      expect(cutPrice(amount, { kind: 'percent', hundredths })).toBe(exact.toNumber())
    }), { numRuns: 500 })
  })

  it('of a share, and of what each of many cost, is the same', () => {
    fc.assert(fc.property(anyAmount, fc.integer({ min: 1, max: 1e6 }), fc.nat(1e6), (amount, whole, some) => {
      const part = some % (whole + 1)
      expect(share(amount, part, whole)).toBe(
        new Exact(amount).times(part).dividedBy(whole).toDecimalPlaces(0, Decimal.ROUND_HALF_EVEN).toNumber(),
      )
      expect(perHead({ amount, currency: 'EUR' }, whole)!.amount).toBe(
        new Exact(amount).dividedBy(whole).toDecimalPlaces(0, Decimal.ROUND_HALF_EVEN).toNumber(),
      )
    }), { numRuns: 500 })
  })
})

describe('renewals', () => {
  const inTemporal = (first: number, zone: string, duration: Temporal.DurationLike) =>
    Temporal.Instant.fromEpochMilliseconds(first).toZonedDateTimeISO(zone).add(duration, { overflow: 'constrain' }).epochMilliseconds

  it('C12: that fall into an hour that exists twice are at its first time, as a calendar of dates has it', () => {
    // The clocks of Auckland go back on 6 April 2031 at 03:00: 02:00 comes twice.
    const first = Date.parse('2026-04-05T14:00Z')
    expect(
      new Date(dueAt(first, 5, 'yearly', 'Pacific/Auckland')).toISOString(),
    ).toBe(Temporal.PlainDateTime.from('2031-04-06T02:00').toZonedDateTime(
      'Pacific/Auckland', { disambiguation: 'earlier' },
    ).toInstant().toString({ fractionalSecondDigits: 3 }))
    expect(dueAt(first, 5, 'yearly', 'Pacific/Auckland')).toBe(inTemporal(first, 'Pacific/Auckland', { years: 5 }))
  })

  it('fall on the instants that Temporal finds, over years, zones and the end of months', () => {
    const zones = fc.constantFrom('UTC', 'Europe/Lisbon', 'America/New_York', 'Asia/Kathmandu', 'Pacific/Auckland')
    const begin = fc.oneof(
      fc.integer({ min: Date.UTC(2026, 0, 1), max: Date.UTC(2032, 0, 1) }),
      fc.constantFrom('2027-01-31T12:00Z', '2028-02-29T12:00Z', '2027-10-31T12:00Z', '2026-12-31T12:00Z').map(Date.parse),
    )
    fc.assert(fc.property(begin, zones, fc.nat(60), (first, zone, n) => {
      expect(dueAt(first, n, 'monthly', zone)).toBe(inTemporal(first, zone, { months: n }))
      expect(dueAt(first, n, 'parts', zone)).toBe(inTemporal(first, zone, { months: n }))
      expect(dueAt(first, n % 12, 'yearly', zone)).toBe(inTemporal(first, zone, { years: n % 12 }))
    }), { numRuns: 500 })
  })
})
