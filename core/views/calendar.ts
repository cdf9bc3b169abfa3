/** The coming days: what will go out when, and to whom too much. */
import type { Instant, LocalDate, LocalTime } from '#core/time/zone'
import type { SendOf } from '#core/sending/kinds'
import type { SendName } from './frame'

/** How many emails are expected, and between which bounds in nineteen of twenty cases; the same where nothing is open. */
export interface Expected { people: number, low: number, high: number }

export interface CalendarSend extends Expected, SendOf, SendName {}

export interface CalendarDay extends Expected {
  date: LocalDate
  at: Instant
  /** Half-hours in which something goes, in their order. */
  slots: (Expected & { time: LocalTime, sends: CalendarSend[] })[]
  /** People who would get more than `most` emails that day. */
  crowded: number
}

export interface CalendarView {
  now: Instant
  zone: string
  most: number
  days: CalendarDay[]
  /** Some of the people who would get too many on some day, the fullest first. */
  crowds: { personId: number, name: string, date: LocalDate, emails: number }[]
}
