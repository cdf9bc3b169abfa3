/** When refusals are no longer about the people refused: several alike, close together. */
import { DAY, MINUTE, type Instant } from '#core/time/zone'
import type { Refusal } from './verdict'

export interface WaveRule {
  /** Refused alike in so many different domains within so many minutes: the carrier stops. 2 to 50, 1 to 1,440. */
  domains: number
  minutes: number
  /** Refused alike so many times among the last so many answers of one domain: that domain stops. */
  refusedOfDomain: number
  lastOfDomain: number
  /** Refused for the mailbox, or without saying why, so many times in so many days: the address counts as bounced. */
  softTimes: number
  softDays: number
}

export const WAVE_RULE: WaveRule = { domains: 3, minutes: 10, refusedOfDomain: 5, lastOfDomain: 10, softTimes: 5, softDays: 14 }

/** A final answer to one email: taken, or refused for good. */
export interface Answered { id: number, at: Instant, domain: string, about: Refusal | 'accepted' }

export type Wave = { kind: 'carrier', ids: number[] } | { kind: 'domain', domain: string, ids: number[] }

/** What can be a wave: a message or a full mailbox is about itself. */
const CAN_BE_ALIKE: readonly Refusal[] = ['policy', 'unclear', 'address']

/**
 * Whether the latest of these answers makes a wave, and which refusals are in
 * it. `answers` are newest first and go back at least so many minutes, and so
 * many answers of its domain.
 *
 * Addresses that are not there are ordinary among many that are: they make a
 * wave only where at least half of what was answered in that time was that.
 */
export function waveOf(answers: readonly Answered[], rule: WaveRule): Wave | null {
  const [latest] = answers
  if (!latest || latest.about === 'accepted' || !CAN_BE_ALIKE.includes(latest.about)) return null
  const since = latest.at - rule.minutes * MINUTE
  const recent = answers.filter(({ at }) => at >= since)
  const alike = recent.filter(({ about }) => about === latest.about)
  const isMostly = latest.about !== 'address' || alike.length * 2 >= recent.length
  if (isMostly && new Set(alike.map(({ domain }) => domain)).size >= rule.domains) {
    return { kind: 'carrier', ids: alike.map(({ id }) => id) }
  }
  const ofDomain = answers.filter(({ domain }) => domain === latest.domain).slice(0, rule.lastOfDomain)
  const refused = ofDomain.filter(({ about }) => about === latest.about)
  return refused.length >= rule.refusedOfDomain ? { kind: 'domain', domain: latest.domain, ids: refused.map(({ id }) => id) } : null
}

/** Whether refusals that say nothing lasting of an address have added up: so many of them in so many days, the latest included. */
export const addsUp = (refusedAt: readonly Instant[], now: Instant, { softTimes, softDays }: WaveRule): boolean =>
  refusedAt.filter(at => at > now - softDays * DAY).length >= softTimes
