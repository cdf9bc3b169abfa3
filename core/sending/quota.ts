/** How many emails one person gets: never too close together, never too many in a day or a week of theirs. */
import { addDays, dayNumber, instantOf, localOf, MINUTE, type Instant, type LocalDate, type ZoneName } from '#core/time/zone'

export interface Limits {
  /** Minutes that lie between two emails to one person at least, 0 to 10,080. */
  gapMinutes: number
  /** So many at most on one calendar day, 1 to 50; null for as many as there are. */
  aDay: number | null
  /** So many at most in seven calendar days that follow one another, 1 to 200. */
  aWeek: number | null
  /** What becomes of what is too many: it goes on the first day that has room, at the same clock time, or not at all. */
  tooMany: 'wait' | 'drop'
}

export const NO_LIMITS: Limits = { gapMinutes: 0, aDay: null, aWeek: null, tooMany: 'wait' }

/**
 * The written order of precedence. Asked-for mail stands before all of these:
 * nothing limits it, and it is not counted. A kind yields to those before it.
 */
export const RANKS = ['bought', 'course', 'rule', 'broadcast'] as const
export type Rank = typeof RANKS[number]

export interface Traffic {
  /** When emails that count were sent to this person, of the last seven days at least. */
  sentAt: readonly Instant[]
  /** What is planned for them and not sent yet; `isBefore`: it was queued before this one, and goes before it among its kind. */
  planned: readonly { at: Instant, rank: Rank, isBefore: boolean }[]
}

export type QuotaVerdict = { kind: 'goes' } | { kind: 'waits', until: Instant, why: 'gap' | 'too-many-emails' } | { kind: 'drops' }

/** A day with room is looked for so far ahead. */
const FARTHEST_DAYS = 60

/** Whether an email of that rank may go at `at`, by the calendar of that zone. */
export function quotaVerdict(limits: Limits, rank: Rank, at: Instant, zone: ZoneName, { sentAt, planned }: Traffic): QuotaVerdict {
  const lastAt = Math.max(...sentAt)
  const gapOver = sentAt.length === 0 ? at : lastAt + limits.gapMinutes * MINUTE
  if (gapOver > at) return { kind: 'waits', until: gapOver, why: 'gap' }
  const { date: today, time } = localOf(at, zone)
  const sentOn = sentAt.map(sent => localOf(sent, zone).date)
  const before = planned.filter(one => RANKS.indexOf(one.rank) < RANKS.indexOf(rank) || (one.rank === rank && one.isBefore))
    .map(one => localOf(Math.max(one.at, at), zone).date)
  const hasRoom = (day: LocalDate) => {
    const that = dayNumber(day)
    const onDay = [...sentOn, ...before].filter(date => date === day).length
    const inWeek = [...sentOn, ...before].filter(date => that - dayNumber(date) >= 0 && that - dayNumber(date) < 7).length
    return (limits.aDay === null || onDay < limits.aDay) && (limits.aWeek === null || inWeek < limits.aWeek)
  }
  if (hasRoom(today)) return { kind: 'goes' }
  if (limits.tooMany === 'drop') return { kind: 'drops' }
  let day = addDays(today, 1)
  while (!hasRoom(day) && dayNumber(day) - dayNumber(today) < FARTHEST_DAYS) day = addDays(day, 1)
  return { kind: 'waits', until: instantOf(day, time, zone), why: 'too-many-emails' }
}
