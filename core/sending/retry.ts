/** How long to wait before the next try, as a pure function of how many there have been. */
import { DAY, HOUR, MINUTE } from '#core/time/zone'

const WAITS = [MINUTE, 5 * MINUTE, 15 * MINUTE, HOUR, 3 * HOUR, 6 * HOUR]

/** An email that has not left after this long is given up: a course email is stale by then. */
export const GIVE_UP_AFTER = 3 * DAY

/** An email that may have arrived goes so often again, with the same Message-ID. */
export const MOST_REPEATS = 2

/**
 * Milliseconds to wait after the `tries`-th failed try (1 is the first).
 * Grows from a minute to six hours and stays there.
 */
export function waitAfter(tries: number): number {
  return WAITS[Math.min(Math.max(tries, 1), WAITS.length) - 1]!
}
