/**
 * Instants and wall clocks.
 *
 * An instant is a whole number of milliseconds since 1970 UTC. A local date is
 * `'2026-11-24'`, a local time `'08:00'`, a zone an IANA name.
 */
import { DateTime, IANAZone } from 'luxon'

export type Instant = number
export type LocalDate = string
export type LocalTime = string
export type ZoneName = string

export const SECOND = 1000
export const MINUTE = 60 * SECOND
export const HOUR = 60 * MINUTE
/** A day of 24 hours, as in "elapsed": not a calendar day. */
export const DAY = 24 * HOUR

const FARTHEST_EAST = 14 * HOUR
const FARTHEST_WEST = 12 * HOUR

/** True if `name` is a zone of the IANA database this machine carries. */
export function isZone(name: string): boolean {
  return name.length > 0 && name.length < 64 && IANAZone.isValidZone(name)
}

/** The offset of every UTC day that was asked for, by zone; null for a day on which the clock is set. */
const offsets = new Map<ZoneName, Map<number, number | null>>()

/** So many days are remembered of a zone, some thirty years. */
const MOST_DAYS = 11_000

/**
 * Milliseconds to add to UTC to get what the wall clock in `zone` shows at
 * `at`. Asked for millions of times when a month is reckoned ahead, so days at
 * whose two ends it is the same are remembered: no zone has its clock set
 * forth and back within one.
 */
export function offsetAt(at: Instant, zone: ZoneName): number {
  let days = offsets.get(zone)
  if (!days) offsets.set(zone, days = new Map())
  const day = Math.floor(at / DAY)
  let offset = days.get(day)
  if (offset === undefined) {
    offset = offsetNow(day * DAY, zone)
    if (offset !== offsetNow((day + 1) * DAY - 1, zone)) offset = null
    if (days.size >= MOST_DAYS) days.clear()
    days.set(day, offset)
  }
  return offset ?? offsetNow(at, zone)
}

const offsetNow = (at: Instant, zone: ZoneName): number => IANAZone.create(zone).offset(at) * MINUTE

/** What date and time the wall clock in `zone` shows at `at`; seconds are cut off. */
export function localOf(at: Instant, zone: ZoneName): { date: LocalDate, time: LocalTime } {
  const wall = at + offsetAt(at, zone)
  const days = Math.floor(wall / DAY)
  const minutes = Math.floor((wall - days * DAY) / MINUTE)
  return { date: dateOfDayNumber(days), time: timeOfMinutes(minutes) }
}

/**
 * The instant at which the wall clock in `zone` shows `date` and `time`.
 *
 * RFC 5545 section 3.3.5: a local time that does not exist (clocks go forward)
 * is read with the offset before the gap; one that exists twice is the first.
 */
export function instantOf(date: LocalDate, time: LocalTime, zone: ZoneName): Instant {
  const wall = dayNumber(date) * DAY + minutesOf(time) * MINUTE
  // Wherever the zone, the instant lies between these two, so their offsets are
  // the only ones it can have unless a zone changes twice within 26 hours.
  const before = offsetAt(wall - FARTHEST_EAST, zone)
  const after = offsetAt(wall + FARTHEST_WEST, zone)
  const exact = [wall - before, wall - after].filter(at => at + offsetAt(at, zone) === wall)
  return exact.length > 0 ? Math.min(...exact) : wall - before
}

/** Days since 1970-01-01 of a calendar date. Throws a RangeError for a date that does not exist. */
export function dayNumber(date: LocalDate): number {
  const [, year, month, day] = (/^(\d{4})-(\d{2})-(\d{2})$/.exec(date) ?? []).map(Number)
  // Asked for as often as anything here; reading the whole text would take luxon three times as long.
  const parsed = day === undefined ? DateTime.invalid('shape') : DateTime.utc(year!, month!, day)
  if (!parsed.isValid) throw new RangeError(`A date looks like 2026-11-24; this came: ${date}`)
  return parsed.toMillis() / DAY
}

/** Whether this is a date of the calendar: not 2026-02-31. */
export function isDate(date: string): boolean {
  try {
    dayNumber(date)
    return true
  }
  catch {
    return false
  }
}

/** The inverse of {@link dayNumber}. */
export function dateOfDayNumber(number: number): LocalDate {
  return DateTime.fromMillis(number * DAY, { zone: 'utc' }).toISODate()!
}

export function addDays(date: LocalDate, days: number): LocalDate {
  return dateOfDayNumber(dayNumber(date) + days)
}

/**
 * So many calendar months on or back: the 31st plus one month is the last day of the month. Always counted from the date that is given,
 * never from an earlier answer.
 */
export function addMonthsTo(date: LocalDate, months: number): LocalDate {
  const month = addMonths(monthOf(date), months)
  const last = Number(addDays(`${addMonths(month, 1)}-01`, -1).slice(8))
  return `${month}-${String(Math.min(Number(date.slice(8)), last)).padStart(2, '0')}`
}

/** `2026-11` of `2026-11-24`. */
export const monthOf = (date: LocalDate): string => date.slice(0, 7)

export const isMonth = (month: string): boolean => isDate(`${month}-01`)

/** Whole months on or back. */
export function addMonths(month: string, months: number): string {
  const [year, number] = month.split('-').map(Number)
  const count = year! * 12 + number! - 1 + months
  return `${String(Math.floor(count / 12)).padStart(4, '0')}-${String(count % 12 + 1).padStart(2, '0')}`
}

/** True for `'00:00'` to `'23:59'`. */
export function isLocalTime(time: string): boolean {
  return /^([01]\d|2[0-3]):[0-5]\d$/.test(time)
}

/** Minutes since midnight. Throws a RangeError unless {@link isLocalTime}. */
export function minutesOf(time: LocalTime): number {
  if (!isLocalTime(time)) throw new RangeError(`A local time looks like 08:00; this came: ${time}`)
  return Number(time.slice(0, 2)) * 60 + Number(time.slice(3))
}

function timeOfMinutes(minutes: number): LocalTime {
  return `${String(Math.floor(minutes / 60)).padStart(2, '0')}:${String(minutes % 60).padStart(2, '0')}`
}
