/**
 * Money: whole minor units of one currency, never a fraction of a number.
 * Which unit is the smallest is ISO 4217's word, by a package: JavaScript's
 * own Intl says what is usual in shops, as no decimals for HUF, and goes only
 * into how amounts look.
 */
import iso4217 from 'currency-codes'
import { plainDecimal } from '#core/decimal'
import { share } from './divide'

export interface Money {
  /** In minor units: cents, or whole yen. */
  amount: number
  /** ISO 4217: `EUR`. */
  currency: string
}

/**
 * Digits of the minor unit by code. Funds, metals and codes for tests are no money that anybody pays with, and Intl has no names for them;
 * it has some for what states draw among each other.
 */
const NAMED = new Set(Intl.supportedValuesOf('currency').filter(code => !['XDR', 'XSU'].includes(code)))
const DIGITS: ReadonlyMap<string, number> = new Map(
  iso4217.data.filter(({ code }) => NAMED.has(code)).map(({ code, digits }) => [code, digits]),
)

/** All of them, in the order of their codes. */
export const CURRENCIES: readonly string[] = [...DIGITS.keys()].sort()

export const isCurrency = (code: string): boolean => DIGITS.has(code)

/** Decimal digits of the minor unit: 2 for EUR, 0 for JPY, 3 for KWD. Throws a RangeError for what is not a currency of ours. */
export function minorDigits(currency: string): number {
  const digits = DIGITS.get(currency)
  if (digits === undefined) throw new RangeError(`${currency} is not a currency`)
  return digits
}

/** More than anybody writes down here, in minor units: every sum of a million of them is still exact. */
export const MOST_AMOUNT = 1_000_000_000

export type ReadMoney = { ok: true, amount: number } | { ok: false, problem: string }

/**
 * Reads `1,234.50`, `1.234,50`, `40` as minor units. Nothing negative, nothing smaller than the minor unit, nothing above {@link
 * MOST_AMOUNT}.
 */
export function readMoney(text: string, currency: string): ReadMoney {
  const wrong = (problem: string): ReadMoney => ({ ok: false, problem })
  const digits = minorDigits(currency)
  const decimal = plainDecimal(text.trim())
  const like = digits === 0 ? '40' : `40 or 40.${'50'.padEnd(digits, '0').slice(0, digits)}`
  if (decimal === null) return wrong(`An amount looks like ${like}, not “${text.trim()}”.`)
  if (decimal.startsWith('-') && /[1-9]/.test(decimal)) return wrong('An amount cannot be below zero.')
  const [whole = '', part = ''] = decimal.replace(/^[+-]/, '').split('.')
  if (/[1-9]/.test(part.slice(digits))) return wrong(digits === 0
    ? `${currency} has no smaller part: an amount looks like ${like}.`
    : `${currency} has ${digits} digits after the point: an amount looks like ${like}.`)
  const amount = Number(`${whole}${part.slice(0, digits).padEnd(digits, '0')}`)
  return amount > MOST_AMOUNT ? wrong(`More than ${sayMoney({ amount: MOST_AMOUNT, currency })} does not fit here.`) : { ok: true, amount }
}

/** As it is typed again: `1234.50`. */
export function writeMoney({ amount, currency }: Money): string {
  const digits = minorDigits(currency)
  const text = String(Math.abs(amount)).padStart(digits + 1, '0')
  return `${amount < 0 ? '-' : ''}${digits === 0 ? text : `${text.slice(0, -digits)}.${text.slice(-digits)}`}`
}

/** `€1,234.50`, `JP¥40`. */
export function sayMoney(money: Money): string {
  // A text is formatted digit by digit; only a number could lose some.
  const digits = minorDigits(money.currency)
  return new Intl.NumberFormat('en-GB', {
    style: 'currency', currency: money.currency, minimumFractionDigits: digits, maximumFractionDigits: digits,
  }).format(writeMoney(money) as Intl.StringNumericLiteral)
}

/** `euro`, `Japanese yen`. */
export const sayCurrency = (currency: string): string => new Intl.DisplayNames('en', { type: 'currency' }).of(currency) ?? currency

/** One sum for each currency, in the order of their codes: different ones are never added. */
export function sumsOf(parts: readonly Money[]): Money[] {
  const sums = new Map<string, number>()
  for (const { amount, currency } of parts) sums.set(currency, (sums.get(currency) ?? 0) + amount)
  return [...sums].sort(([one], [other]) => one < other ? -1 : 1).map(([currency, amount]) => ({ amount, currency }))
}

/** What each of `heads` cost, rounded half to even. Null where nobody is there to share it. Whole numbers, `heads` not below 0. */
export function perHead({ amount, currency }: Money, heads: number): Money | null {
  return heads === 0 ? null : { amount: share(amount, 1, heads), currency }
}
