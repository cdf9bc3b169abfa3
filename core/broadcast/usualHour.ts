/** At which hour of their day people usually read, by their own first reader opens, and how sure that is. */
import { rateOf, type Rate } from '#core/stats/rate'

export interface UsualHour {
  /** It begins then, 0 to 23, by their own clocks. */
  hour: number
  /** Of all their first opens. */
  share: Rate
  /** Hours that cannot be told from it: their likely ranges overlap. In the order of the day. */
  alike: number[]
}

/** With fewer opens nothing is said. */
export const LEAST_OPENS = 50

/**
 * `opens`: how many there were in each of the 24 hours. Null where that is too few to say anything; of hours that are as good, the first.
 */
export function usualHour(opens: readonly number[]): UsualHour | null {
  const total = opens.reduce((sum, n) => sum + n, 0)
  if (total < LEAST_OPENS) return null
  const most = Math.max(...opens)
  const hour = opens.indexOf(most)
  const share = rateOf(most, total)
  const alike = opens.flatMap((n, other) => other !== hour && rateOf(n, total).high! >= share.low! ? [other] : [])
  return { hour, share, alike }
}
