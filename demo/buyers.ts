/** Who buys at Saltmarsh Bindery, when, and what becomes of it: from a seed, among those who come. */
import { diceOf } from '#core/dice'
import type { Touch } from '#core/page/touch'
import { DAY, HOUR, type Instant } from '#core/time/zone'
import type { PracticeCard } from '#runtime/payments'
import { OFFERS } from './offers'
import type { Visitor } from './visitors'

export interface Buyer {
  at: Instant
  slug: string
  address: string
  firstName: string
  code: string
  touch: Touch
  /** Null for who goes to pay and does not. */
  card: PracticeCard | null
  /** A card that was tried first, and refused. */
  refusedFirst: boolean
  /** How much goes back, in hundredths of all of it, and when; null for nothing. */
  back: { at: Instant, share: number } | null
  /** Others who looked at the offer and went away. */
  lookers: number
}

/** Keen people who ask to hear of the winter class, in the weeks before it opens. */
export interface Waiter { at: Instant, slug: string, address: string, firstName: string, zone: string }

export function waitersAmong(visitors: readonly Visitor[], end: Instant): Waiter[] {
  const dice = diceOf(0xa51de)
  return visitors.filter(({ firstName, keenness }) => firstName !== '' && keenness > 62)
    .flatMap(({ at: came, address, firstName, zone }): Waiter[] => {
    const at = came + DAY + Math.floor(dice() * 20 * DAY)
    return dice() < 0.22 && at > end - 26 * DAY && at < end - HOUR ? [{ at, slug: OFFERS.leather, address, firstName, zone }] : []
  })
}

/** In order of time. The keener somebody is, the likelier they buy; most wait until the free course has told them what it is about. */
export function buyersAmong(visitors: readonly Visitor[], end: Instant): Buyer[] {
  const dice = diceOf(0xb0071)
  const pick = <Item>(items: readonly Item[]) => items[Math.floor(dice() * items.length)]!
  return visitors.filter(({ firstName }) => firstName !== '').flatMap((visitor): Buyer[] => {
    const wish = dice() * 100
    const at = visitor.at + (dice() < 0.3 ? 1 : 7) * DAY + Math.floor(dice() * 12 * DAY) + Math.floor(dice() * HOUR)
    if (wish > visitor.keenness * 0.42 || at > end - HOUR) return []
    const slug = pick([OFFERS.sampler, OFFERS.sampler, OFFERS.journals, OFFERS.journals, OFFERS.club])
    const code = dice() < 0.4
      ? ({ [OFFERS.sampler]: 'WELCOME', [OFFERS.journals]: pick(['EARLY', 'GUILD']) } as Record<string, string>)[slug] ?? ''
      : ''
    const fate = dice()
    const backAt = at + Math.floor(dice() * 9 * DAY)
    return [{
      at, slug, code, address: visitor.address, firstName: visitor.firstName, touch: visitor.touch,
      card: fate < 0.14 ? null : fate < 0.2 ? 'disputed' : 'works', refusedFirst: dice() < 0.1,
      back: fate > 0.9 && backAt < end ? { at: backAt, share: dice() < 0.5 ? 10_000 : 5000 } : null,
      lookers: Math.floor(Math.log(1 - dice()) / Math.log(1 - 0.13)),
    }]
  }).sort((a, b) => a.at - b.at)
}
