/** Whether two rates differ, and by how much at least and at most. */
import { rateOf, type Rate } from './rate'

/**
 * The 95 % interval of the difference `one - other`, by their Wilson score intervals: method 10 of R. G. Newcombe, Statistics in Medicine
 * 17 (1998), 873-890. Null where one of them is a rate of nothing.
 */
export function differenceOf(one: Rate, other: Rate): { value: number, low: number, high: number } | null {
  if (one.value === null || other.value === null) return null
  const value = one.value - other.value
  return {
    value,
    low: value - Math.hypot(one.value - one.low!, other.high! - other.value),
    high: value + Math.hypot(one.high! - one.value, other.value - other.low!),
  }
}

/** More, fewer, or no clear difference. */
export function compared(one: Rate, other: Rate): 'more' | 'fewer' | 'unclear' {
  const difference = differenceOf(one, other)
  if (difference === null) return 'unclear'
  return difference.low > 0 ? 'more' : difference.high < 0 ? 'fewer' : 'unclear'
}

/** Several of them taken together. */
export const together = (rates: readonly Rate[]): Rate =>
  rateOf(rates.reduce((sum, { part }) => sum + part, 0), rates.reduce((sum, { whole }) => sum + whole, 0))
