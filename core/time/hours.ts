/** Sending hours: a week of half-hours in which emails may leave, as the wall clock shows them. */
import type { Instant, LocalTime, ZoneName } from './zone'
import { DAY, MINUTE, offsetAt } from './zone'

/** 336 letters, one for each half-hour of a week that begins on Monday at 00:00: `1` is open, `0` is closed. */
export type WeekHours = string

export const HALF_HOUR = 30 * MINUTE
export const SLOTS_A_DAY = 48
export const SLOTS = 7 * SLOTS_A_DAY
export const ALWAYS: WeekHours = '1'.repeat(SLOTS)

/** At least one half-hour is open: otherwise nothing would ever leave. */
export const isWeekHours = (value: string): boolean => /^[01]{336}$/.test(value) && value.includes('1')

/** Open where both are. May be closed all week, which is no {@link isWeekHours}. */
export const both = (a: WeekHours, b: WeekHours): string => [...a].map((slot, n) => slot === '1' && b[n] === '1' ? '1' : '0').join('')

/** The same half-hours on these days of the week (1 is Monday): from `from` up to `to`, which is not in it; `24:00` is the day's end. */
export function daily(days: readonly number[], from: LocalTime, to: LocalTime | '24:00'): WeekHours {
  const slotOf = (time: string) => Number(time.slice(0, 2)) * 2 + (time.slice(3) >= '30' ? 1 : 0)
  return Array.from({ length: SLOTS }, (_, n) =>
    days.includes(Math.floor(n / SLOTS_A_DAY) + 1) && n % SLOTS_A_DAY >= slotOf(from) && n % SLOTS_A_DAY < slotOf(to) ? '1' : '0').join('')
}

/** Which half-hour of the week the wall clock shows, 0 to 335. 1970-01-01 was a Thursday. */
const slotOf = (wall: number): number => Math.floor((wall + 3 * DAY) / HALF_HOUR) % SLOTS

/** Whether emails may leave at that instant. */
export const isOpen = (at: Instant, hours: WeekHours, zone: ZoneName): boolean => hours[slotOf(at + offsetAt(at, zone))] === '1'

/**
 * The first instant from `at` on, itself included, at which the wall clock in
 * `zone` shows an open half-hour. Throws for hours that are never open.
 */
export function nextOpen(at: Instant, hours: WeekHours, zone: ZoneName): Instant {
  if (!hours.includes('1')) throw new RangeError('These sending hours never open')
  if (hours === ALWAYS) return at
  let from = at
  for (;;) {
    const offset = offsetAt(from, zone)
    const wall = from + offset
    const slot = slotOf(wall)
    if (hours[slot] === '1') return from
    // Straight to the next open half-hour, as long as no clock is changed on the way.
    const away = hours.slice(slot + 1).indexOf('1')
    const slots = away >= 0 ? away + 1 : SLOTS - slot + hours.indexOf('1')
    const open = (Math.floor(wall / HALF_HOUR) + slots) * HALF_HOUR - offset
    const change = clockChange(from, open, offset, zone)
    if (change === null) return open
    from = change
  }
}

/**
 * The first instant after `from`, up to `to`, at which the offset is no longer `offset`; null for none. A clock that is set twice within a
 * day is not foreseen.
 */
function clockChange(from: Instant, to: Instant, offset: number, zone: ZoneName): Instant | null {
  for (let at = from; at < to;) {
    const next = Math.min(to, at + DAY)
    if (offsetAt(next, zone) !== offset) {
      let [same, other] = [at, next]
      while (other - same > 1) {
        const middle = Math.floor((same + other) / 2)
        if (offsetAt(middle, zone) === offset) same = middle
        else other = middle
      }
      return other
    }
    at = next
  }
  return null
}
