/** How fast email goes to one receiving domain: the owner's numbers, and pauses that grow while its server puts us off. */
import { MINUTE, type Instant } from '#core/time/zone'
import { waitAfter } from './retry'

export interface DomainRates {
  /** Emails a minute to any one domain, 1 to 10,000; null for no limit. */
  everyDomain: number | null
  /** Domains with a number of their own: lower case, in ASCII. */
  domains: { domain: string, aMinute: number }[]
}

export const NO_RATES: DomainRates = { everyDomain: null, domains: [] }

/** Emails a minute; null for no limit. */
export const rateOf = ({ everyDomain, domains }: DomainRates, domain: string): number | null =>
  domains.find(one => one.domain === domain)?.aMinute ?? everyDomain

/** What is known of one domain. */
export interface DomainState {
  /** When its next free turn is; null where none was ever taken. */
  nextAt: Instant | null
  /** Emails put off since the last that was accepted. */
  deferred: number
  /** Pauses since the last that was accepted. */
  pauses: number
  pauseUntilAt: Instant | null
}

export const FRESH: DomainState = { nextAt: null, deferred: 0, pauses: 0, pauseUntilAt: null }

/** The first turn that is free, and the state after it is taken. Turns lie evenly in each minute. */
export function takeTurn(state: DomainState, aMinute: number, at: Instant): { turnAt: Instant, state: DomainState } {
  const turnAt = Math.max(at, state.nextAt ?? at, state.pauseUntilAt ?? at)
  return { turnAt, state: { ...state, nextAt: turnAt + Math.ceil(MINUTE / aMinute) } }
}

/** So many in a row are about the domain, not about the mailboxes. */
const ENOUGH = 3

/**
 * An email was put off (4yz, RFC 5321 section 4.2.1). `asksSlower`: it said that it was because of how many there are; then one is enough.
 * Pauses grow like those of a single email. What was under way when a pause began does not make it longer.
 */
export function afterDeferral(state: DomainState, asksSlower: boolean, at: Instant): DomainState {
  if (state.pauseUntilAt !== null && at < state.pauseUntilAt) return state
  const deferred = state.deferred + 1
  if (!asksSlower && deferred < ENOUGH) return { ...state, deferred }
  const pauses = state.pauses + 1
  return { ...state, deferred, pauses, pauseUntilAt: at + waitAfter(pauses) }
}

/** How long a sending takes by the owner's numbers. `slowest`: the domain that takes so long; null where it is the number for all. */
export interface Going { minutes: number, slowest: { domain: string, people: number, aMinute: number } | null }

/** Null where no number limits it. `aMinute`: emails a minute to all domains together; null for no limit. */
export function goingFor(
  byDomain: readonly { domain: string, people: number }[], rates: DomainRates, aMinute: number | null,
): Going | null {
  const all = byDomain.reduce((sum, { people }) => sum + people, 0)
  const overall: Going[] = aMinute === null ? [] : [{ minutes: Math.ceil(all / aMinute), slowest: null }]
  const ofDomains = byDomain.flatMap(({ domain, people }): Going[] => {
    const own = rateOf(rates, domain)
    return own === null ? [] : [{ minutes: Math.ceil(people / own), slowest: { domain, people, aMinute: own } }]
  })
  return [...overall, ...ofDomains].reduce<Going | null>((most, one) => most && most.minutes >= one.minutes ? most : one, null)
}
