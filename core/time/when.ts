/**
 * The *when* of a step: the kinds of waiting, and what instant each one means.
 *
 * Every kind is worded so that nobody can mistake one for another; the words
 * are in say.ts.
 */
import { ALWAYS, nextOpen, type WeekHours } from './hours'
import type { Instant, LocalDate, LocalTime, ZoneName } from './zone'
import { DAY, HOUR, MINUTE, addDays, addMonthsTo, dayNumber, instantOf, localOf } from './zone'

/** What a *when* counts from: the planned time of the step before, or the moment of joining. */
export type From = 'previous' | 'joining'

export type ElapsedUnit = 'minutes' | 'hours' | 'days' | 'weeks'

/** Monday is 1, Sunday 7, as in ISO 8601. */
export type Weekday = 1 | 2 | 3 | 4 | 5 | 6 | 7

export type Timing =
  | { kind: 'at-once' }
  /** So much time on a stopwatch; a day is 24 hours. `count` is a whole number, 1 to 10,000. */
  | { kind: 'elapsed', count: number, unit: ElapsedUnit, from: From }
  /** The Nth day after the day of the base (0 is that day itself), at a clock time. `day` is 0 to 3,650. */
  | { kind: 'calendar-day', day: number, time: LocalTime, from: From }
  /** So many calendar months after the day of the base, 1 to 120: the 31st plus one month is the last day of the month. */
  | { kind: 'months', count: number, time: LocalTime, from: From }
  /** The next such clock time, strictly later than the step before. */
  | { kind: 'next-time', time: LocalTime }
  /** The next such day of the week at a clock time, strictly later than the step before. */
  | { kind: 'next-weekday', weekday: Weekday, time: LocalTime }
  /** The same date for everybody. */
  | { kind: 'date', date: LocalDate, time: LocalTime }
  /**
   * A date field of the person, or so long after it, at a clock time. It returns every so many months (1 to 120), counted from the date
   * itself; 0 is once.
   */
  | { kind: 'date-field', fieldId: number, time: LocalTime } & Away & Returning

/** How far from a date: whole months (-120 to 120), or days (-3,650 to 3,650) after them; before it where negative. */
export interface Away { days: number, months?: number }

/** How a date comes round. `fromFirst`: the date itself does not count, only its returns do. */
export interface Returning { everyMonths: number, fromFirst?: true }

/** Where a person stands in a course: both instants are planned times, never the time a machine got round to it. */
export interface Standing {
  joinedAt: Instant
  previousAt: Instant
}

/** The date a field of the person holds; null while it is not known. */
export type DateOf = (fieldId: number) => LocalDate | null

export const UNIT_MS: Record<ElapsedUnit, number> = { minutes: MINUTE, hours: HOUR, days: DAY, weeks: 7 * DAY }

/**
 * The instant a *when* means for someone standing there; null where it goes by a date that is not known. It may lie before
 * `standing.previousAt`: see {@link planOf}.
 */
export function targetOf(when: Timing, standing: Standing, zone: ZoneName, dateOf: DateOf): Instant | null {
  switch (when.kind) {
    case 'at-once':
      return standing.previousAt
    case 'elapsed':
      return baseOf(when.from, standing) + when.count * UNIT_MS[when.unit]
    case 'calendar-day':
      return instantOf(addDays(dayOf(when.from, standing, zone), when.day), when.time, zone)
    case 'months':
      return instantOf(addMonthsTo(dayOf(when.from, standing, zone), when.count), when.time, zone)
    case 'next-time':
      return later(standing.previousAt, zone, date => date, 1, when.time)
    case 'next-weekday':
      return later(standing.previousAt, zone, date => addDays(date, (when.weekday - weekdayOf(date) + 7) % 7), 7, when.time)
    case 'date':
      return instantOf(when.date, when.time, zone)
    case 'date-field': {
      const date = dateOf(when.fieldId)
      return date === null ? null : occurrence(date, when, standing.previousAt, zone)
    }
  }
}

/** Of the date itself and its returns the first whose moment is not past; of one that comes once, the date itself. */
function occurrence(date: LocalDate, when: Extract<Timing, { kind: 'date-field' }>, from: Instant, zone: ZoneName): Instant {
  const { time, everyMonths, fromFirst } = when
  const at = (n: number) => instantOf(awayFrom(date, when, n * everyMonths), time, zone)
  if (everyMonths === 0) return at(0)
  // Nobody's date lies so far back that its returns could not be counted: begin shortly before the first that can be meant.
  const monthsAgo = Math.floor((dayNumber(localOf(from, zone).date) - dayNumber(awayFrom(date, when))) / 31)
  for (let n = Math.max(fromFirst ? 1 : 0, Math.floor(monthsAgo / everyMonths) - 1); ; n++) if (at(n) >= from) return at(n)
}

/** The day so far from a return of a date, `after` months on: months are counted from the date itself, then the days. */
export const awayFrom = (date: LocalDate, { days, months = 0 }: Away, after = 0): LocalDate =>
  addDays(addMonthsTo(date, after + months), days)

/**
 * The first such local time strictly after `base`, on the day that `day` makes of the base's, or `again` days later. Compares instants, not
 * what two wall clocks read.
 */
function later(base: Instant, zone: ZoneName, day: (date: LocalDate) => LocalDate, again: number, time: LocalTime): Instant {
  const date = day(localOf(base, zone).date)
  for (let n = 0; ; n++) {
    const at = instantOf(addDays(date, n * again), time, zone)
    if (at > base) return at
  }
}

/**
 * Whether its time is later than the previous step's for everybody, however often they come to it: what is counted from joining or from a
 * date may lie in the past.
 */
export function isAlwaysLater(when: Timing): boolean {
  switch (when.kind) {
    case 'elapsed':
    case 'months': return when.from === 'previous'
    case 'calendar-day': return when.from === 'previous' && when.day > 0
    case 'next-time':
    case 'next-weekday': return true
    case 'at-once':
    case 'date':
    case 'date-field': return false
  }
}

/** Monday is 1. 1970-01-01 was a Thursday. */
export const weekdayOf = (date: LocalDate): Weekday => ((((dayNumber(date) + 3) % 7) + 7) % 7 + 1) as Weekday

export interface Plan {
  /** Null where it goes by a date that is not known: it is passed over. */
  targetAt: Instant | null
  /** When it goes: the target, or at once where the target was already past; then not before the sending hours open. */
  plannedAt: Instant
  /** Why it is passed over: its target was past and it says *skip* for that, or its date is not known. Null where it is not. */
  skipped: 'past' | 'no-date' | null
}

/**
 * What becomes of a step for someone standing there.
 *
 * *Past* is judged against where the person stands (the planned time of the
 * step before), so the answer does not depend on how late a machine runs; and
 * on the target, before sending hours.
 */
export function planOf(
  when: Timing, ifPast: 'at-once' | 'skip', standing: Standing, zone: ZoneName, dateOf: DateOf, hours: WeekHours = ALWAYS,
): Plan {
  const targetAt = targetOf(when, standing, zone, dateOf)
  if (targetAt === null) return { targetAt, plannedAt: standing.previousAt, skipped: 'no-date' }
  const past = targetAt < standing.previousAt
  return {
    targetAt, plannedAt: nextOpen(past ? standing.previousAt : targetAt, hours, zone), skipped: past && ifPast === 'skip' ? 'past' : null,
  }
}

function baseOf(from: From, standing: Standing): Instant {
  return from === 'joining' ? standing.joinedAt : standing.previousAt
}

const dayOf = (from: From, standing: Standing, zone: ZoneName): LocalDate => localOf(baseOf(from, standing), zone).date
