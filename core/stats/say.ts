/** Numbers and rates in words, the same on every screen and in emails. */
import type { Rate } from './rate'

// Made once, because a screen formats hundreds of numbers.
const NUMBERS = new Intl.NumberFormat('en-GB')

export const sayNumber = (n: number) => NUMBERS.format(n)

/** `+12`, `−3`, `0`. */
export const sayChange = (n: number) => `${n > 0 ? '+' : n < 0 ? '−' : ''}${sayNumber(Math.abs(n))}`

export const sayPeople = (n: number) => `${sayNumber(n)} ${n === 1 ? 'person' : 'people'}`

export const saySome = (n: number, one: string, many: string) => `${sayNumber(n)} ${n === 1 ? one : many}`

/** `21.4%`; a dash where there is nothing to take a rate of. */
export function sayRate(rate: Rate): string {
  return rate.value === null ? '–' : `${percent(rate.value)}%`
}

/** Below this many a rate says how uncertain it is. */
const SMALL = 100

/** `10 of 17; between 36% and 78%` for small numbers, else `120 of 560`. */
export function sayBasis(rate: Rate): string {
  const basis = `${sayNumber(rate.part)} of ${sayNumber(rate.whole)}`
  return rate.value === null || rate.whole >= SMALL ? basis : `${basis}; ${sayInterval(rate)}`
}

/** `between 26% and 32%`, how sure a rate is at 95 in 100; empty where there is none. */
export function sayInterval(rate: Rate): string {
  return rate.value === null ? '' : `between ${Math.round(rate.low! * 100)}% and ${Math.round(rate.high! * 100)}%`
}

function percent(value: number): string {
  const shown = value * 100
  return shown === 0 || shown >= 10 ? shown.toFixed(shown % 1 === 0 ? 0 : 1) : shown.toFixed(1)
}

/** `1.4 MB` */
export const sayBytes = (bytes: number): string =>
  bytes < 1000 ? `${bytes} bytes` : bytes < 1_000_000 ? `${Math.round(bytes / 1000)} kB` : `${(bytes / 1_000_000).toFixed(1)} MB`
