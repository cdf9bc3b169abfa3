/** Rehearsals in words. */
import type { RehearsedReader, StoryLine, Warning } from '#core/sequence/rehearsal'
import { sayDay, sayMoment } from '#core/time/say'
import { dayNumber, HOUR, instantOf, localOf, MINUTE, type Instant, type LocalDate, type ZoneName } from '#core/time/zone'
import { saySpan } from './steps'

/** What a reader does, as one sentence without its subject. */
export function sayReader(
  { joins, zone, opens, clicks, buys, leaves }: RehearsedReader, offers: readonly { id: number, name: string }[],
): string {
  const some = (n: number) => `${n} of its emails`
  const parts = [
    `joins on ${sayDay(instantOf(joins.date, '12:00', 'UTC'), 'UTC')} at ${joins.time}${zone ? `, ${zone.replaceAll('_', ' ')}` : ''}`,
    opens.which === 'none'
      ? 'opens nothing'
      : `opens ${opens.which === 'all' ? 'every email' : some(opens.stepIds.length)} after ${saySpan(opens.after)}`,
    clicks.which === 'none'
      ? 'clicks nothing'
      : `clicks the first link of ${clicks.which === 'all' ? 'each' : some(clicks.stepIds.length)} ${saySpan(clicks.after)} later`,
    ...buys
      ? [`buys ${offers.find(({ id }) => id === buys.offerId)?.name ?? 'a deleted offer'} on day ${buys.day} at ${buys.time}`]
      : [],
    ...leaves ? [`unsubscribes on day ${leaves.day}`] : [],
  ]
  return parts.join('; ')
}

export function sayWarning(warning: Warning, zone: ZoneName): string {
  switch (warning.kind) {
    case 'outside-hours': return 'outside the sending hours'
    case 'weekend': return 'on a weekend'
    case 'close': {
      const ms = warning.at - warning.before
      return ms === 0
        ? 'at the same time as the previous one'
        : `only ${ms < HOUR ? `${Math.round(ms / MINUTE)} minutes` : `${Math.round(ms / HOUR * 10) / 10} hours`} after the previous one`
    }
    case 'closed': return `after ${warning.offer} has closed, on ${sayMoment(warning.closedAt, zone)}`
  }
}

export interface StoryDay { date: LocalDate, /** Counted from the day of joining of the first reader. */ day: number, cells: StoryLine[][] }

/** Stories side by side, day by day; days on which nothing happens to anybody are left out. */
export function daysOf(stories: readonly StoryLine[][], zones: readonly ZoneName[], first: LocalDate): StoryDay[] {
  const dateOf = (at: Instant, n: number) => localOf(at, zones[n]!).date
  const dates = [...new Set(stories.flatMap((lines, n) => lines.map(({ at }) => dateOf(at, n))))].sort()
  return dates.map(date => ({
    date, day: dayNumber(date) - dayNumber(first), cells: stories.map((lines, n) => lines.filter(({ at }) => dateOf(at, n) === date)),
  }))
}
