/** When a call to an address outside that failed is tried again. */
import { HOUR, MINUTE, SECOND } from '#core/time/zone'

/**
 * Growing waits, so that the last try lies a day of 24 hours after the first. The Standard Webhooks specification asks for growing waits
 * over days and leaves their lengths open; these are ours.
 */
export const WAITS: readonly number[] = [
  5 * SECOND, 5 * MINUTE, 30 * MINUTE, 2 * HOUR, 5 * HOUR, 8 * HOUR, 24 * HOUR - (5 * SECOND + 35 * MINUTE + 15 * HOUR),
]

/** How long after the `tries`-th try the next one comes; null for no more. */
export const waitAfterCall = (tries: number): number | null => WAITS[tries - 1] ?? null
