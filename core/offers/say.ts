/** Prices and standings in words. */
import { sayMoney } from '#core/money/money'
import { sayMoment, sayZone } from '#core/time/say'
import type { Instant, ZoneName } from '#core/time/zone'
import type { Coupon, CouponInput } from './coupon'
import { pricesWith } from './coupon'
import type { Standing } from './offer'
import { paymentsOf, type Price } from './price'
import { sayNumber } from '#core/stats/say'

/** `€180.00`, `€19.00 a month`, `€180.00 in 3 monthly payments of €60.00`. */
export function sayPrice(price: Price): string {
  const say = (amount: number) => sayMoney({ amount, currency: price.currency })
  switch (price.paying) {
    case 'once': return say(price.amount)
    case 'monthly': return `${say(price.amount)} a month`
    case 'yearly': return `${say(price.amount)} a year`
    case 'parts': {
      const payments = paymentsOf(price)
      const [first, last] = [payments[0]!, payments.at(-1)!]
      return `${say(price.amount)} in ${payments.length} monthly payments ${first === last ? `of ${say(first)}` : `of ${say(first)} and ${say(last)}`}`
    }
  }
}

/** The price with a coupon: `€126.00`, `€9.00 for the first month, then €19.00 a month`. */
export function sayPriceWith(price: Price, coupon: Pick<CouponInput, 'cut' | 'lasts'> | null): string {
  const { first, later } = pricesWith(price, coupon)
  if (!later || later.amount === first.amount) return sayPrice(first)
  return `${sayMoney(first)} for the first ${price.paying === 'yearly' ? 'year' : 'month'}, then ${sayPrice(later)}`
}

/** `30 % off`, `€20.00 off the first payment`. */
export function sayCut({ cut, lasts, currency }: Pick<Coupon, 'cut' | 'lasts' | 'currency'>, { paying }: Pick<Price, 'paying'>): string {
  const much = cut.kind === 'percent' ? `${String(cut.hundredths / 100)} %` : sayMoney({ amount: cut.amount, currency })
  return `${much} off${(paying === 'monthly' || paying === 'yearly') && lasts === 'first' ? ' the first payment' : ''}`
}

const sayPlaces = (n: number) => n === 1 ? '1 place is' : `${sayNumber(n)} places are`

const sayLeft = ({ left, held }: { left: number | null, held: number }): string =>
  left === null ? '' : `, ${sayPlaces(left)} left${held === 0 ? '' : ` and ${sayPlaces(held)} being paid for`}`

/** How an offer stands, for its maker and for visitors alike. */
export function sayStanding(standing: Standing, zone: ZoneName): string {
  const at = (instant: Instant) => `${sayMoment(instant, zone)} (${sayZone(zone)})`
  switch (standing.is) {
    case 'open': return `Can be bought${standing.until === null ? '' : ` until ${at(standing.until)}`}${sayLeft(standing)}`
    case 'not-yet': return `Opens ${at(standing.from)}`
    case 'closed': return standing.again === null ? `Closed since ${at(standing.since)}` : `Closed. It opens again ${at(standing.again)}`
    case 'being-paid': return `The last ${sayPlaces(standing.held)} being paid for. If one is not, it is free again ${at(standing.freeAt)}`
    case 'sold-out': return 'All places are taken'
  }
}
