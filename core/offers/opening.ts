/** How an offer opens for those who wait: who hears of it when. The engine goes by this, and so does the look ahead. */
import { HOUR, type Instant } from '#core/time/zone'
import { standingOf, type OfferContent, type Standing, type Taken } from './offer'
import type { Waiting } from './waiting'

/** How many of those who wait hear of it now. `left`: places that can be had, null for any number; `inTurn`: those whose turn it is. */
export function turnsToGive(left: number | null, inTurn: number, waiting: number): number {
  return left === null ? waiting : Math.max(0, Math.min(waiting, left - inTurn))
}

/** When it is worth looking whether it opens, judged by how it stands; null where only another event can open it. */
export function opensNext(standing: Standing): Instant | null {
  switch (standing.is) {
    case 'not-yet': return standing.from
    case 'closed': return standing.again
    case 'being-paid': return standing.freeAt
    default: return null
  }
}

/** So many people hear of it at that instant. */
export interface OpeningBit { at: Instant, people: number }

/** How the opening goes. `unheard`: those for whom no place is left, or whose turn comes only after it has closed. */
export interface OpeningPlan { bits: OpeningBit[], unheard: number }

/** So many bits are looked at; a waiting list longer than that is told of as unheard. */
const MOST_BITS = 400

/**
 * What happens at the opening if nobody buys and nobody comes by another way:
 * the order in which the engine tells people, played ahead. `turnEnds`: when
 * the turns end that were given already.
 */
export function openingPlan(
  content: Pick<OfferContent, 'opensAt' | 'closesAt' | 'opensAgainAt' | 'places'> & { waiting: Pick<Waiting, 'turnHours'> },
  { now, taken, waiting, turnEnds }: { now: Instant, taken: Taken, waiting: number, turnEnds: readonly Instant[] }
): OpeningPlan {
  const bits: OpeningBit[] = []
  const ends = [...turnEnds]
  let unheard = waiting
  let at: Instant | null = now
  for (let n = 0; at !== null && unheard > 0 && n < MOST_BITS; n++) {
    // Whoever is just paying will have, or has let go of it by then.
    const here: Instant = at
    const standing = standingOf(content, here, taken.freeAt !== null && here >= taken.freeAt ? { ...taken, held: 0, freeAt: null } : taken)
    if (standing.is !== 'open') {
      at = opensNext(standing)
      continue
    }
    const people = turnsToGive(standing.left, ends.filter(end => end > here).length, unheard)
    if (people > 0) {
      bits.push({ at: here, people })
      unheard -= people
      if (standing.left !== null) ends.push(...Array.from({ length: people }, () => here + content.waiting.turnHours * HOUR))
    }
    const later = [...ends.filter(end => end > here), ...taken.freeAt !== null && taken.freeAt > here ? [taken.freeAt] : []]
    at = later.length === 0 ? null : Math.min(...later)
  }
  return { bits, unheard }
}
