/** What is paid, when, and how much comes back. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { inParts, share } from '#core/money/divide'
import { MOST_AMOUNT } from '#core/money/money'
import { codeKey, couponProblem, cutPrice, pricesWith, type Coupon } from '#core/offers/coupon'
import { dueAt, paymentsOf, type Price } from '#core/offers/price'
import { isTakenBack, tally, type PaymentFact } from '#core/offers/purchase'
import { unused } from '#core/offers/refund'
import { DAY } from '#core/time/zone'

const anyAmount = fc.integer({ min: 0, max: MOST_AMOUNT })
const price = (amount: number, more: Partial<Price> = {}): Price => ({ currency: 'EUR', amount, paying: 'once', parts: 1, ...more })

describe('a price', () => {
  it('in parts is paid to the last unit, the larger parts first', () => {
    expect(paymentsOf(price(10_000, { paying: 'parts', parts: 3 }))).toEqual([3334, 3333, 3333])
    fc.assert(fc.property(anyAmount, fc.integer({ min: 1, max: 24 }), (amount, parts) => {
      const payments = inParts(amount, parts)
      expect(payments.reduce((sum, one) => sum + one, 0)).toBe(amount)
      expect(Math.max(...payments) - Math.min(...payments)).toBeLessThanOrEqual(1)
      expect(payments).toEqual([...payments].sort((a, b) => b - a))
    }))
  })

  it('a share of it is within half a unit of the truth, and to even at the half', () => {
    fc.assert(fc.property(anyAmount, fc.integer({ min: 1, max: 1e12 })
      .chain(whole => fc.tuple(fc.integer({ min: 0, max: whole }), fc.constant(whole))), (amount, [part, whole]) => {
      const off = 2n * (BigInt(share(amount, part, whole)) * BigInt(whole) - BigInt(amount) * BigInt(part))
      const size = off < 0n ? -off : off
      expect(size <= BigInt(whole)).toBe(true)
      if (size === BigInt(whole)) expect(share(amount, part, whole) % 2).toBe(0)
    }))
    expect([1, 3, 5].map(amount => share(amount, 1, 2))).toEqual([0, 2, 2])
  })

  it.each<[string, string, Parameters<typeof dueAt>[2], string[]]>([
    [
      '2027-01-31T09:00:00Z', 'UTC', 'monthly',
      ['2027-01-31T09:00:00.000Z', '2027-02-28T09:00:00.000Z', '2027-03-31T09:00:00.000Z', '2027-04-30T09:00:00.000Z'],
    ],
    ['2028-02-29T09:00:00Z', 'UTC', 'yearly', [
      '2028-02-29T09:00:00.000Z', '2029-02-28T09:00:00.000Z', '2030-02-28T09:00:00.000Z', '2031-02-28T09:00:00.000Z',
      '2032-02-29T09:00:00.000Z',
    ]],
    // By the clock of the zone: noon in Lisbon stays noon when its summer begins.
    [
      '2027-03-01T12:00:00Z', 'Europe/Lisbon', 'parts',
      ['2027-03-01T12:00:00.000Z', '2027-04-01T11:00:00.000Z', '2027-05-01T11:00:00.000Z'],
    ],
  ])('from %s in %s %s is due by the calendar', (first, zone, paying, due) => {
    expect(due.map((_, n) => new Date(dueAt(Date.parse(first), n, paying, zone)).toISOString())).toEqual(due)
  })
})

describe('a coupon', () => {
  const NOW = Date.UTC(2026, 10, 26, 12)
  const coupon: Coupon = {
    id: 1, offerId: 7, currency: 'EUR', code: 'Early Bird', cut: { kind: 'percent', hundredths: 2500 }, fromAt: NOW - DAY,
    untilAt: NOW + DAY, uses: 10, lasts: 'every',
  }

  it('counts from its first millisecond on and not at its end, for its offer, so many times', () => {
    const problem = (now: number, used = 0, offerId = 7) => couponProblem(coupon, { offerId, currency: 'EUR', now, used })
    expect([problem(NOW - DAY), problem(NOW + DAY - 1), problem(NOW, 9)]).toEqual([null, null, null])
    expect([
      problem(NOW - DAY - 1), problem(NOW + DAY), problem(NOW, 10), problem(NOW, 0, 8),
      couponProblem(undefined, { offerId: 7, currency: 'EUR', now: NOW, used: 0 }),
    ]).toEqual(
      [
        'This code is not valid yet.', 'This code has ended.', 'This code has been used up.',
        'This code is for something else.', 'This code is not known.',
      ])
    expect([' early  bird', 'EARLYBIRD', 'ｅａｒｌｙ bird'].map(codeKey)).toEqual(Array(3).fill('EARLYBIRD'))
  })

  it('makes nothing dearer, nothing negative, and takes off just what it says', () => {
    expect([
      cutPrice(9900, { kind: 'percent', hundredths: 3333 }), cutPrice(1, { kind: 'percent', hundredths: 5000 }),
      cutPrice(3, { kind: 'percent', hundredths: 5000 }), cutPrice(500, { kind: 'amount', amount: 700 }),
    ]).toEqual([6600, 0, 2, 0])
    fc.assert(fc.property(anyAmount, fc.oneof(
      fc.record({ kind: fc.constant('percent' as const), hundredths: fc.integer({ min: 1, max: 10_000 }) }),
      fc.record({ kind: fc.constant('amount' as const), amount: fc.integer({ min: 1, max: MOST_AMOUNT }) }),
    ), (amount, cut) => {
      const paid = cutPrice(amount, cut)
      expect([paid >= 0, paid <= amount]).toEqual([true, true])
      expect(cutPrice(amount, { kind: 'percent', hundredths: 10_000 })).toBe(0)
    }))
  })

  it('of a price that is renewed takes off each time, or the first time alone', () => {
    const monthly = price(2000, { paying: 'monthly' })
    const first = { cut: coupon.cut, lasts: 'first' as const }
    expect(pricesWith(monthly, first)).toEqual({ first: { ...monthly, amount: 1500 }, later: monthly })
    expect(pricesWith(monthly, { ...first, lasts: 'every' }).later).toEqual({ ...monthly, amount: 1500 })
    expect(pricesWith(price(2000), first)).toEqual({ first: price(1500), later: null })
    expect(pricesWith(monthly, null)).toEqual({ first: monthly, later: monthly })
  })
})

describe('what has not been used', () => {
  const year = { from: Date.UTC(2027, 0, 1), to: Date.UTC(2028, 0, 1) }

  it('is all before, nothing after, and falls with every moment between', () => {
    expect([
      unused(12_000, year, year.from - 1), unused(12_000, year, year.from), unused(12_000, year, year.to),
      unused(12_000, year, year.to + DAY),
    ]).toEqual([12_000, 12_000, 0, 0])
    expect(unused(36_500, year, year.from + 100 * DAY)).toBe(26_500)
    fc.assert(fc.property(anyAmount, fc.integer({ min: year.from, max: year.to }), fc.nat(DAY), (amount, at, later) => {
      expect(unused(amount, year, at + later)).toBeLessThanOrEqual(unused(amount, year, at))
    }))
  })
})

describe('what a payment service tells of an order', () => {
  const paid = (ref: string, at: number, amount = 1000): PaymentFact => ({ kind: 'paid', ref, at, amount })
  const refunded = (ref: string, of: string, at: number, amount: number): PaymentFact => ({ kind: 'refunded', ref, of, at, amount })
  const anyTold: fc.Arbitrary<PaymentFact> = fc.oneof(
    fc.record({
      kind: fc.constant('paid' as const), ref: fc.constantFrom('p1', 'p2'), at: fc.nat(5), amount: fc.integer({ min: 1, max: 1000 }),
    }),
    fc.record({ kind: fc.constant('refused' as const), ref: fc.constantFrom('p3', 'p4'), at: fc.nat(9) }),
    fc.record({
      kind: fc.constant('refunded' as const), ref: fc.constantFrom('r1', 'r2', 'r3'), of: fc.constantFrom('p1', 'p2', 'p9'), at: fc.nat(9),
      amount: fc.integer({ min: 1, max: 1200 }),
    }),
    fc.record({ kind: fc.constant('disputed' as const), of: fc.constantFrom('p1', 'p2'), at: fc.nat(9) }),
    fc.record({ kind: fc.constant('ended' as const), at: fc.nat(9) }),
  )

  it('comes to the same in whatever order it is told, and however often', () => {
    fc.assert(fc.property(fc.array(anyTold, { maxLength: 10 })
      .chain(all => fc.tuple(fc.constant(all), fc.shuffledSubarray([...all, ...all], { minLength: all.length * 2 }))), ([all, again]) => {
      expect(tally(again)).toEqual(tally(all))
    }))
  })

  it('never gives back more than was paid, of the whole or of one payment', () => {
    fc.assert(fc.property(fc.array(anyTold, { maxLength: 12 }), (all) => {
      const { purchase } = tally(all)
      for (const payment of purchase?.payments ?? []) expect(payment.refunded).toBeLessThanOrEqual(payment.amount)
      if (purchase) expect([purchase.paid, purchase.refunded]).toEqual([
        purchase.payments.reduce((sum, { amount }) => sum + amount, 0), purchase.payments.reduce((sum, { refunded }) => sum + refunded, 0),
      ])
    }))
  })

  it('is no purchase before a payment came through; what is early waits for it', () => {
    expect(tally([{ kind: 'refused', ref: 'p1', at: 1 }, { kind: 'ended', at: 2 }])).toEqual({ purchase: null, uncounted: [] })
    const early = refunded('r1', 'p1', 3, 400)
    expect(tally([early])).toEqual({ purchase: null, uncounted: [{ fact: early, why: 'early' }] })
    expect(tally([early, paid('p1', 1)])).toMatchObject({ purchase: { paid: 1000, refunded: 400 }, uncounted: [] })
  })

  it('counts a refund in parts to the last unit and not beyond', () => {
    const all = [paid('p1', 1), refunded('r1', 'p1', 2, 600), refunded('r2', 'p1', 3, 401), refunded('r3', 'p1', 4, 400)]
    const { purchase, uncounted } = tally(all)
    expect([purchase!.refunded, isTakenBack(purchase!), uncounted]).toEqual([1000, true, [{ fact: all[2], why: 'too-much' }]])
    expect(isTakenBack(tally(all.slice(0, 2)).purchase!)).toBe(false)
  })

  it('forgets a refused payment once a later one came through', () => {
    const refusal: PaymentFact = { kind: 'refused', ref: 'p2', at: 5 }
    expect(
      [tally([paid('p1', 1), refusal]), tally([paid('p1', 1), refusal, paid('p3', 7)])].map(({ purchase }) => purchase!.refusedAt),
    ).toEqual([5, null])
    expect(tally([paid('p1', 1), { kind: 'disputed', of: 'p1', at: 9 }, { kind: 'ended', at: 10 }]).purchase).toMatchObject({
      endedAt: 10, payments: [{ disputed: true }],
    })
  })
})
