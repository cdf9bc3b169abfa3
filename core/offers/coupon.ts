/** Coupons: a code that makes an offer cheaper, within its time and so many times. */
import { share } from '#core/money/divide'
import type { Instant } from '#core/time/zone'
import { isRenewed, type Price } from './price'

export type Cut =
  /** In hundredths of a percent, 1 to 10,000. */
  | { kind: 'percent', hundredths: number }
  /** In minor units of the offer's currency. */
  | { kind: 'amount', amount: number }

export interface CouponInput {
  /** As it is shown; it is compared without case and spaces. */
  code: string
  cut: Cut
  /** From this instant on; null for always. */
  fromAt: Instant | null
  /** Before this instant; null for ever. */
  untilAt: Instant | null
  /** How often in all; null for any number. */
  uses: number | null
  /** Of a price that is renewed: every payment, or the first alone. */
  lasts: 'first' | 'every'
}

export interface Coupon extends CouponInput {
  id: number
  offerId: number
  /** What an amount is in: that of the price when the coupon was saved. */
  currency: string
}

/** `  Early BIRD ` as `EARLYBIRD`. */
export const codeKey = (code: string): string => code.replace(/\s+/g, '').normalize('NFKC').toUpperCase()

/** Whether it may be used now, in words for the buyer; null if it may. One millisecond decides. */
export function couponProblem(
  coupon: Coupon | undefined, { offerId, currency, now, used }: { offerId: number, currency: string, now: Instant, used: number },
): string | null {
  if (!coupon) return 'This code is not known.'
  if (coupon.offerId !== offerId) return 'This code is for something else.'
  // The same number would be another amount.
  if (coupon.cut.kind === 'amount' && coupon.currency !== currency) {
    return `This code takes off an amount in ${coupon.currency}, and the price is in ${currency}.`
  }
  if (coupon.fromAt !== null && now < coupon.fromAt) return 'This code is not valid yet.'
  if (coupon.untilAt !== null && now >= coupon.untilAt) return 'This code has ended.'
  if (coupon.uses !== null && used >= coupon.uses) return 'This code has been used up.'
  return null
}

/** The price with the coupon; never below nothing. A percentage is taken off exactly and the price then rounded, halves to even. */
export function cutPrice(amount: number, cut: Cut): number {
  return cut.kind === 'amount' ? Math.max(0, amount - cut.amount) : share(amount, 10_000 - cut.hundredths, 10_000)
}

/** What the first payment or payments come to, and each later one of a price that is renewed. */
export function pricesWith(price: Price, coupon: Pick<CouponInput, 'cut' | 'lasts'> | null): { first: Price, later: Price | null } {
  const cut = coupon ? { ...price, amount: cutPrice(price.amount, coupon.cut) } : price
  return { first: cut, later: isRenewed(price) ? (coupon?.lasts === 'first' ? price : cut) : null }
}
