/** Giving money back. */
import { share } from '#core/money/divide'
import type { Instant } from '#core/time/zone'

/** What of a payment for a stretch of time has not been used up at `at`; all of it before the stretch, nothing after it. Halves to even. */
export function unused(amount: number, { from, to }: { from: Instant, to: Instant }, at: Instant): number {
  const rest = Math.min(Math.max(to - at, 0), to - from)
  return share(amount, rest, to - from)
}
