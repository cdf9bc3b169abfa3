/** What is sold in an email, and until when. */
import { sayMoment } from '../../time/say'
import type { Instant } from '../../time/zone'
import { allBlocks } from '../blocks'
import { look, placed, wrong, type Check, type Finding, type Spot } from './check'

/** Offers as they will be shown; asked with the email as it is made. */
export const offers: Check = {
  name: 'Offers can be bought',
  isFor: ({ offers: shown }) => shown !== null && shown.length > 0,
  detail: (_, { offers: shown }) => String(shown?.length ?? 0),
  find(_, { offers: shown, now, zone }) {
    return (shown ?? []).flatMap(({ blockId, offer }): Finding[] => {
      const at: Spot | null = blockId === null ? null : { blockId }
      if (!offer) {
        return [wrong('An offer cannot be bought', 'Choose another, or publish it. The block is left out so.', at, 'cannot be bought')]
      }
      const { name, closesAt, code, couponUntilAt } = offer
      const when = (instant: Instant) => sayMoment(instant, zone)
      if (closesAt !== null && closesAt <= now) return [wrong(`“${name}” has closed`, `It closed ${when(closesAt)}.`, at, 'has closed')]
      if (code === null || couponUntilAt === null) return []
      if (couponUntilAt <= now) return [wrong(`The coupon ${code} has ended`, `It stopped ${when(couponUntilAt)}.`, at, 'coupon has ended')]
      if (closesAt !== null && couponUntilAt < closesAt) {
        const todo = `${code} stops ${when(couponUntilAt)}, the offer closes ${when(closesAt)}.`
        return [wrong('The coupon ends before the offer', todo, at, 'coupon ends early')]
      }
      return closesAt !== null && couponUntilAt > closesAt
        ? [look('The coupon outlives the offer', `${code} stops ${when(couponUntilAt)}, the offer closes ${when(closesAt)}.`, at)]
        : []
    })
  },
}

/** Codes in the words of an email; those of offers are told of beside their block. */
export const coupons: Check = {
  name: 'Coupons still work',
  isFor: ({ coupons: named }) => named.length > 0,
  detail: (_, { coupons: named }) => String(named.length),
  find(_, { coupons: named, offers: shown, isLasting, now, zone }) {
    const inBlocks = new Set((shown ?? []).map(({ offer }) => offer?.code?.toLowerCase()))
    return named.filter(({ code }) => !inBlocks.has(code.toLowerCase())).flatMap(({ code, offer, untilAt, closesAt }) => {
      const when = sayMoment(untilAt, zone)
      if (untilAt <= now) return [wrong(`The coupon ${code} has ended`, `It stopped ${when}. Take it out, or let it last.`)]
      if (isLasting) return [look(`The coupon ${code} stops ${when}`, 'People who reach this email later cannot use it.')]
      return closesAt !== null && untilAt !== closesAt
        ? [look(`The coupon ${code} stops ${when}`, `“${offer}” closes ${sayMoment(closesAt, zone)}.`)]
        : []
    })
  },
}

/** How long something lasts. */
export const countdowns: Check = {
  name: 'Countdowns end later',
  detail: ({ body }) => String(allBlocks(body).filter(({ type }) => type === 'countdown').length),
  find({ body }, { now }) {
    return placed(body).flatMap(({ node, at }) => {
      if (node.type !== 'countdown' || node.attrs.offerId !== null) return []
      if (node.attrs.until === null) return [wrong('A countdown has no end', 'Choose until when. It is left out so.', at, 'no end')]
      return node.attrs.until <= now ? [look('A countdown is over already', 'Readers see what stands there for afterwards.', at)] : []
    })
  },
}
