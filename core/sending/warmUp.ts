/** A plan for a new sender: so many emails a day, growing, until receivers know it (common practice, no source). */
import { addDays, dayNumber, type LocalDate } from '#core/time/zone'

export interface WarmUp {
  /** The day of the workspace on which it began. */
  startedOn: LocalDate
  /** Emails on the first day, 1 to 100,000. */
  first: number
  /** Percent more after each day that was used, 1 to 300. */
  growth: number
  /** As many a day end the plan, 2 to 1,000,000. */
  until: number
}

export const USUAL_PLAN: Omit<WarmUp, 'startedOn'> = { first: 50, growth: 50, until: 5000 }

/** Emails that left on a day. */
export interface SentOn { date: LocalDate, sent: number }

/** After a day that was used; always at least one more. */
const grown = (most: number, { growth }: WarmUp): number => Math.max(most + 1, Math.floor(most * (1 + growth / 100)))

/** Only a day on which at least half of its number left has shown receivers anything. */
const isUsed = (sent: number, most: number): boolean => sent * 2 >= most

/** How many may leave on that day, by what left before it; null once the plan is over. `sent`: in any order. */
export function mostOn(plan: WarmUp, sent: readonly SentOn[], today: LocalDate): number | null {
  let most = plan.first
  const before = sent.filter(({ date }) => dayNumber(date) >= dayNumber(plan.startedOn) && dayNumber(date) < dayNumber(today))
  for (const day of before.toSorted((a, b) => dayNumber(a.date) - dayNumber(b.date))) {
    if (most >= plan.until) break
    if (isUsed(day.sent, most)) most = grown(most, plan)
  }
  return most >= plan.until ? null : most
}

/** A day of what lies ahead: `most` is null once the plan is over. */
export interface DayAhead { date: LocalDate, most: number | null, people: number }

/** It is told so far ahead at the most. */
const MOST_DAYS = 90

/** How many of so many people get it on which day, where nothing else leaves. `today`: how many have left already. */
export function daysFor(
  plan: WarmUp, sent: readonly SentOn[], { date, sent: left }: SentOn, people: number,
): DayAhead[] {
  const days: DayAhead[] = []
  let most = mostOn(plan, sent, date)
  let waiting = people
  for (let n = 0; waiting > 0 && n < MOST_DAYS; n++) {
    const already = n === 0 ? left : 0
    const goes = most === null ? waiting : Math.max(0, Math.min(waiting, most - already))
    days.push({ date: addDays(date, n), most, people: goes })
    waiting -= goes
    if (most === null) break
    if (isUsed(already + goes, most)) most = grown(most, plan)
    if (most >= plan.until) most = null
  }
  return days
}
