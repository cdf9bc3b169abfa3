/**
 * The *when* of a step: the kinds of waiting, and what instant each one means.
 *
 * Every kind is worded so that nobody can mistake one for another; the words
 * are in say.ts.
 */
import type { Instant, LocalTime, ZoneName } from './zone'
import { DAY, HOUR, MINUTE, addDays, instantOf, localOf } from './zone'

/** What a *when* counts from: the planned time of the step before, or the moment of joining. */
export type From = 'previous' | 'joining'

export type ElapsedUnit = 'minutes' | 'hours' | 'days' | 'weeks'

export type When =
  | { kind: 'at-once' }
  /** So much time on a stopwatch; a day is 24 hours. `count` is a whole number, 1 to 10,000. */
  | { kind: 'elapsed', count: number, unit: ElapsedUnit, from: From }
  /** The Nth day after the day of the base (0 is that day itself), at a clock time. `day` is 0 to 3,650. */
  | { kind: 'calendar-day', day: number, time: LocalTime, from: From }

/** Where a person stands in a course: both instants are planned times, never the time a machine got round to it. */
export interface Standing {
  joinedAt: Instant
  previousAt: Instant
}

export const UNIT_MS: Record<ElapsedUnit, number> = { minutes: MINUTE, hours: HOUR, days: DAY, weeks: 7 * DAY }

/** The instant a *when* means for someone standing there. It may lie before `standing.previousAt`: see {@link planOf}. */
export function targetOf(when: When, standing: Standing, zone: ZoneName): Instant {
  switch (when.kind) {
    case 'at-once':
      return standing.previousAt
    case 'elapsed':
      return baseOf(when.from, standing) + when.count * UNIT_MS[when.unit]
    case 'calendar-day': {
      const day = localOf(baseOf(when.from, standing), zone).date
      return instantOf(addDays(day, when.day), when.time, zone)
    }
  }
}

export interface Plan {
  targetAt: Instant
  /** When it goes: the target, or at once where the target was already past. */
  plannedAt: Instant
  /** True if the target was past and the step says *skip* for that. */
  skipped: boolean
}

/**
 * What becomes of a step for someone standing there.
 *
 * *Past* is judged against where the person stands (the planned time of the
 * step before), so the answer does not depend on how late a machine runs.
 */
export function planOf(when: When, ifPast: 'at-once' | 'skip', standing: Standing, zone: ZoneName): Plan {
  const targetAt = targetOf(when, standing, zone)
  const past = targetAt < standing.previousAt
  return { targetAt, plannedAt: past ? standing.previousAt : targetAt, skipped: past && ifPast === 'skip' }
}

function baseOf(from: From, standing: Standing): Instant {
  return from === 'joining' ? standing.joinedAt : standing.previousAt
}
