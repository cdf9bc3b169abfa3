import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { plainDecimal } from '#core/decimal'
import { CURRENCIES, isCurrency, minorDigits, MOST_AMOUNT, perHead, readMoney, sayMoney, sumsOf, writeMoney } from '#core/money/money'

describe('an amount that somebody types', () => {
  it.each<[string, string, number | string]>([
    ['40', 'EUR', 4000], ['40.5', 'EUR', 4050], ['1,234.50', 'EUR', 123450], ['1.234,50', 'EUR', 123450], ['12,5', 'EUR', 1250],
    ['1 200', 'EUR', 120000], ['0', 'EUR', 0], ['40.500', 'EUR', 4050], ['-0', 'EUR', 0],
    ['40', 'JPY', 40], ['1,000', 'JPY', 1000], ['1.5', 'KWD', 1500], ['0.001', 'KWD', 1], ['40.50', 'HUF', 4050],
    ['40.505', 'EUR', 'EUR has 2 digits after the point'], ['0.001', 'EUR', 'EUR has 2 digits'],
    ['40.5', 'JPY', 'JPY has no smaller part'], ['-3', 'EUR', 'below zero'], ['1e3', 'EUR', 'not “1e3”'],
    ['', 'EUR', 'looks like 40 or 40.50'], ['€40', 'EUR', 'not “€40”'], ['1,2,3', 'EUR', 'not “1,2,3”'],
    ['99999999999999999999', 'EUR', 'does not fit'], ['10000000.01', 'EUR', 'does not fit'],
  ])('%j in %s', (text, currency, expected) => {
    const read = readMoney(text, currency)
    if (typeof expected === 'number') expect(read).toEqual({ ok: true, amount: expected })
    else expect(read).toEqual({ ok: false, problem: expect.stringContaining(expected) })
  })

  it('is written so that reading gives it back, and said with its digits, in every currency', () => {
    fc.assert(fc.property(fc.constantFrom(...CURRENCIES), fc.integer({ min: 0, max: MOST_AMOUNT }), (currency, amount) => {
      expect(readMoney(writeMoney({ amount, currency }), currency)).toEqual({ ok: true, amount })
      const digits = minorDigits(currency)
      expect(sayMoney({ amount, currency }).replace(/\D/g, '').replace(/^0+/, '')).toBe(String(amount).replace(/^0$/, '') || '')
      expect(sayMoney({ amount, currency })).toMatch(digits === 0 ? /\d$/ : new RegExp(`\\.\\d{${digits}}$`))
    }))
  })

  it('is no money in what is no currency', () => {
    for (const code of ['', 'EURO', 'eur', 'XXX', 'XAU', '__proto__']) expect(isCurrency(code)).toBe(false)
    expect(() => minorDigits('XXX')).toThrow(RangeError)
    expect(sayMoney({ amount: 123456, currency: 'EUR' })).toBe('€1,234.56')
  })
})

describe('sums and shares', () => {
  it('add only what is of one currency', () => {
    expect(sumsOf([{ amount: 1, currency: 'USD' }, { amount: 2, currency: 'EUR' }, { amount: 40, currency: 'USD' }])).toEqual([
      { amount: 2, currency: 'EUR' }, { amount: 41, currency: 'USD' },
    ])
    expect(sumsOf([])).toEqual([])
  })

  it('are within half a minor unit of the truth, and to even at the half', () => {
    fc.assert(fc.property(fc.integer({ min: 0, max: MOST_AMOUNT }), fc.integer({ min: 1, max: 100_000 }), (amount, heads) => {
      const { amount: share } = perHead({ amount, currency: 'EUR' }, heads)!
      const off = 2 * Math.abs(share * heads - amount)
      expect(off).toBeLessThanOrEqual(heads)
      if (off === heads) expect(share % 2).toBe(0)
    }))
    expect([5, 15, 25].map(amount => perHead({ amount, currency: 'EUR' }, 10)!.amount)).toEqual([0, 2, 2])
    expect(perHead({ amount: 5, currency: 'EUR' }, 0)).toBe(null)
  })
})

describe('a number as people type it', () => {
  it('is read digit by digit, however many there are', () => {
    expect(plainDecimal('12,345,678,901,234,567,890.12')).toBe('12345678901234567890.12')
    fc.assert(fc.property(fc.bigInt({ min: 0n, max: 10n ** 30n }), fc.stringMatching(/^\d{1,6}$/), (whole, part) => {
      const grouped = (sign: string) => String(whole).replace(/\B(?=(\d{3})+$)/g, sign)
      for (const text of [`${whole}.${part}`, `${grouped(',')}.${part}`, `${grouped(' ')}.${part}`]) {
        expect(plainDecimal(text)).toBe(`${whole}.${part}`)
      }
      if (part.length !== 3) expect(plainDecimal(`${grouped('.')},${part}`)).toBe(`${whole}.${part}`)
    }))
  })
})
