/** Times and waits in words, the same everywhere they are shown. */
import { DateTime } from 'luxon'
import { ALWAYS, SLOTS_A_DAY, type WeekHours } from './hours'
import type { Away, ElapsedUnit, Returning, Timing } from './when'
import type { Instant, LocalDate, ZoneName } from './zone'
import { DAY, HOUR, instantOf, MINUTE } from './zone'

const at = (instant: Instant, zone: ZoneName) => DateTime.fromMillis(instant, { zone, locale: 'en-GB' })

/** `Thu 26 Nov`; with the year, `Thu 26 Nov 2026`. */
export function sayDay(instant: Instant, zone: ZoneName, withYear = false): string {
  return at(instant, zone).toFormat(withYear ? 'ccc d LLL yyyy' : 'ccc d LLL')
}

/** `November 2026` */
export function sayMonth(instant: Instant, zone: ZoneName): string {
  return at(instant, zone).toFormat('LLLL yyyy')
}

/** `08:00` */
export function sayTime(instant: Instant, zone: ZoneName): string {
  return at(instant, zone).toFormat('HH:mm')
}

/** `Thu 26 Nov, 08:00` */
export function sayMoment(instant: Instant, zone: ZoneName): string {
  return `${sayDay(instant, zone)}, ${sayTime(instant, zone)}`
}

/** `Saturday 5 December, 20:00, Lisbon time` */
export function sayInFull(instant: Instant, zone: ZoneName): string {
  return `${at(instant, zone).toFormat('cccc d LLLL, HH:mm')}, ${sayZone(zone)}`
}

/** How long it still is, never more than is true: `3 days and 4 hours`, `5 hours`, `40 minutes`; null once it is over. */
export function sayLeft(ms: number): string | null {
  if (ms <= 0) return null
  const some = (n: number, unit: string) => `${n} ${unit}${n === 1 ? '' : 's'}`
  const [days, hours, minutes] = [Math.floor(ms / DAY), Math.floor(ms % DAY / HOUR), Math.floor(ms % HOUR / MINUTE)]
  if (days > 0) return hours > 0 && days < 7 ? `${some(days, 'day')} and ${some(hours, 'hour')}` : some(days, 'day')
  if (hours > 0) return some(hours, 'hour')
  return minutes > 0 ? some(minutes, 'minute') : 'less than a minute'
}

/** `Thu 26 Nov 2026, 08:00:05`, for histories, where seconds can matter. */
export function sayExactly(instant: Instant, zone: ZoneName): string {
  return at(instant, zone).toFormat('ccc d LLL yyyy, HH:mm:ss')
}

/** `2026-11-26T08:00:05Z`, for files. */
export function sayIso(instant: Instant): string {
  return DateTime.fromMillis(instant, { zone: 'utc' }).toISO({ suppressMilliseconds: true })!
}

/** Someone else's words as a sentence of ours: with one full stop. */
export function endDot(words: string | null): string {
  return words === null ? '' : `${words.replace(/[.\s]+$/, '')}.`
}

/** The name of the day: `Tuesday`. */
export function sayWeekday(instant: Instant, zone: ZoneName): string {
  return at(instant, zone).toFormat('cccc')
}

/** `Lisbon time` for `Europe/Lisbon`; `UTC` stays. */
export function sayZone(zone: ZoneName): string {
  const place = zone.split('/').at(-1) ?? zone
  return zone.includes('/') ? `${place.replaceAll('_', ' ')} time` : zone
}

const UNIT_WORDS: Record<ElapsedUnit, [one: string, many: string]> = {
  minutes: ['minute', 'minutes'],
  hours: ['hour', 'hours'],
  days: ['day (24 hours)', 'days (24 hours)'],
  weeks: ['week', 'weeks'],
}

/** A *when* as a phrase: `2 days (24 hours) after the previous step`. `fieldName` names a date field. */
export function sayWhen(when: Timing, fieldName: (fieldId: number) => string = () => 'a field'): string {
  switch (when.kind) {
    case 'at-once':
      return 'at once'
    case 'elapsed': {
      const [one, many] = UNIT_WORDS[when.unit]
      return `${when.count} ${when.count === 1 ? one : many} after ${when.from === 'joining' ? 'joining' : 'the previous step'}`
    }
    case 'calendar-day':
      return `at ${when.time}, ${sayDayCount(when.day)} ${when.from === 'joining' ? 'the day of joining' : 'the day of the previous step'}`
    case 'months':
      return `at ${when.time}, ${when.count === 1 ? '1 calendar month' : `${when.count} calendar months`} after ${when.from === 'joining' ? 'the day of joining' : 'the day of the previous step'}`
    case 'next-time':
      return `at the next ${when.time} after the previous step`
    case 'next-weekday':
      return `on the next ${WEEKDAYS[when.weekday - 1]} at ${when.time} after the previous step`
    case 'date':
      return `on ${sayDate(when.date)} at ${when.time}, for everyone`
    case 'date-field': {
      return `at ${when.time}, ${sayAway(when)} the date in ${fieldName(when.fieldId)}${sayReturning(when)}`
    }
  }
}

/** `on`, `3 days before`, `6 months after`, of a date. */
function sayAway({ days, months = 0 }: Away): string {
  const parts = [
    ...months === 0 ? [] : [months % 12 === 0 ? count(Math.abs(months / 12), 'year', 'years') : count(Math.abs(months), 'month', 'months')],
    ...days === 0 ? [] : [count(Math.abs(days), 'day', 'days')],
  ]
  return parts.length === 0 ? 'on' : `${parts.join(' and ')} ${months < 0 || days < 0 ? 'before' : 'after'}`
}

/** `, every 6 months, without the date itself`; empty for a date that comes once. */
function sayReturning({ everyMonths, fromFirst }: Returning): string {
  if (everyMonths === 0) return ''
  const every = everyMonths === 12
    ? 'year'
    : everyMonths % 12 === 0 ? `${everyMonths / 12} years` : everyMonths === 1 ? 'month' : `${everyMonths} months`
  return `, every ${every}${fromFirst ? ', without the date itself' : ''}`
}

export const WEEKDAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'] as const

/** A week of half-hours in words: `Mon to Fri 08:00–18:00, Sat 10:00–12:00`. */
export function sayHours(hours: WeekHours): string {
  if (hours === ALWAYS) return 'at any time'
  const days = WEEKDAYS.map((name, day) => ({
    name: name.slice(0, 3), open: openings(hours.slice(day * SLOTS_A_DAY, (day + 1) * SLOTS_A_DAY)),
  }))
  const runs: { from: string, to: string, open: string }[] = []
  for (const { name, open } of days) {
    const last = runs.at(-1)
    if (last?.open === open) last.to = name
    else runs.push({ from: name, to: name, open })
  }
  return runs.filter(({ open }) => open !== '').map(({ from, to, open }) => `${from === to ? from : `${from} to ${to}`} ${open}`).join(', ')
    || 'never'
}

/** `08:00–12:00 and 14:00–18:00` of a day of half-hours; empty for none. */
function openings(day: string): string {
  const time = (slot: number) => `${String(Math.floor(slot / 2)).padStart(2, '0')}:${slot % 2 ? '30' : '00'}`
  return [...day.matchAll(/1+/g)].map(({ 0: run, index }) =>
    run.length === SLOTS_A_DAY ? 'all day' : `${time(index)}–${time(index + run.length)}`).join(' and ')
}

const count = (n: number, one: string, many: string) => `${n} ${n === 1 ? one : many}`

/** `Thu 26 Nov 2026` of a date of the calendar. */
export const sayDate = (date: LocalDate): string => sayDay(instantOf(date, '12:00', 'UTC'), 'UTC', true)

/** The same without its year: `Thu 26 Nov`. */
export const sayShortDate = (date: LocalDate): string => sayDay(instantOf(date, '12:00', 'UTC'), 'UTC')

function sayDayCount(day: number): string {
  if (day === 0) return 'on'
  return day === 1 ? '1 calendar day after' : `${day} calendar days after`
}

/** A length of time in its two largest units: `2 days 3 hours`, `48 minutes`, `less than a minute`. */
export function sayLength(ms: number): string {
  if (ms < MINUTE) return 'less than a minute'
  const parts: [number, string][] = [
    [Math.floor(ms / DAY), 'day'],
    [Math.floor((ms % DAY) / HOUR), 'hour'],
    [Math.floor((ms % HOUR) / MINUTE), 'minute'],
  ]
  return parts
    .filter(([count]) => count > 0)
    .slice(0, 2)
    .map(([count, unit]) => `${count} ${unit}${count === 1 ? '' : 's'}`)
    .join(' ')
}
