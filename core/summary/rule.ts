/** When the owner gets a summary of the week by email. */
import { weekdayOf, type Weekday } from '../time/when'
import { addDays, instantOf, localOf, type Instant, type LocalTime, type ZoneName } from '../time/zone'

export interface SummaryRule {
  on: boolean
  /** Monday is 1. */
  weekday: Weekday
  /** On the clock of the workspace. */
  time: LocalTime
}

export const NO_SUMMARY: SummaryRule = { on: false, weekday: 1, time: '08:00' }

const DAYS = 7

/** The first such moment after `after`; null while no summary is wanted. */
export function nextSummaryAt({ on, weekday, time }: SummaryRule, after: Instant, zone: ZoneName): Instant | null {
  if (!on) return null
  const today = localOf(after, zone).date
  const date = addDays(today, (weekday - weekdayOf(today) + DAYS) % DAYS)
  const at = instantOf(date, time, zone)
  return at > after ? at : instantOf(addDays(date, DAYS), time, zone)
}

/** The same clock time a week earlier, where the week that is summed up begins. */
export function weekBefore(until: Instant, zone: ZoneName): Instant {
  const { date, time } = localOf(until, zone)
  return instantOf(addDays(date, -DAYS), time, zone)
}
