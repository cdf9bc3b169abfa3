/** What an offer costs, and when it is paid. */
import { inParts } from '#core/money/divide'
import { addMonthsTo, instantOf, localOf, MINUTE, offsetAt, type Instant, type ZoneName } from '#core/time/zone'

/** `parts`: the whole price in so many monthly payments. `monthly`, `yearly`: the price again each time, until it is ended. */
export const PAYINGS = ['once', 'parts', 'monthly', 'yearly'] as const
export type Paying = typeof PAYINGS[number]

export interface Price {
  /** ISO 4217. */
  currency: string
  /** In minor units: the whole of it, or each time. */
  amount: number
  paying: Paying
  /** How many payments; 1 but for `parts`. */
  parts: number
}

export const MOST_PARTS = 24

export const isRenewed = ({ paying }: Pick<Price, 'paying'>): boolean => paying === 'monthly' || paying === 'yearly'

/** What is paid when: the payments that are known from the beginning, the first at once. A renewed price tells its first only. */
export function paymentsOf({ amount, paying, parts }: Price): number[] {
  return paying === 'parts' ? inParts(amount, parts) : [amount]
}

/**
 * When the payment `n` is due, 0 for the first: so many months or years after
 * it by the calendar and clock of the zone, as {@link instantOf} reads them.
 * Where a month has no such day it is its last one, and the next goes by the
 * first day again: 31 January, 28 February, 31 March.
 */
export function dueAt(firstAt: Instant, n: number, paying: Exclude<Paying, 'once'>, zone: ZoneName): Instant {
  if (n === 0) return firstAt
  const { date, time } = localOf(firstAt, zone)
  const secondsAndMore = (firstAt + offsetAt(firstAt, zone)) % MINUTE
  return instantOf(addMonthsTo(date, paying === 'yearly' ? 12 * n : n), time, zone) + secondsAndMore
}
