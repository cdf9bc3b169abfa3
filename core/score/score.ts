/**
 * How warm someone is: points for what they do, each worth half as much after
 * every half-life. What a point is worth is 2 to the power of minus its age in
 * half-lives (exponential decay, closed form), so a whole past is one number
 * and the instant it was reckoned for.
 */
import type { EventKind } from '#core/events'
import { DAY, type Instant } from '#core/time/zone'

/** What can bring points by itself. Opens and clicks count only as readers' own. */
export const SCORED_KINDS = [
  'opted-in', 'file-fetched', 'opened', 'clicked', 'visited-page', 'replied', 'finished-course', 'checkout-started', 'bought', 'renewed',
  'refunded', 'unsubscribed',
] as const satisfies readonly EventKind[]
export type ScoredKind = typeof SCORED_KINDS[number]

export const SCORED_WORDS: Record<ScoredKind, string> = {
  'opted-in': 'opts in on a page', 'file-fetched': 'downloads a promised file', 'opened': 'opens an email (reader opens)',
  'clicked': 'clicks a link', 'visited-page': 'visits a page from an email', 'replied': 'replies',
  'finished-course': 'finishes a course', 'checkout-started': 'goes to pay', 'bought': 'buys', 'renewed': 'pays again',
  'refunded': 'gets a refund', 'unsubscribed': 'leaves everything',
}

export interface ScoreRule {
  /** Days of 24 hours, 1 to 3,650. */
  halfLifeDays: number
  /** Whole points, -100 to 100; what is left out brings none. */
  points: Partial<Record<ScoredKind, number>>
  /** Reaching so many from below is an event; ascending, each 1 to 10,000. */
  thresholds: number[]
}

export const READY_SCORE: ScoreRule = {
  halfLifeDays: 60,
  points: {
    'opted-in': 5, 'file-fetched': 2, 'opened': 1, 'clicked': 3, 'visited-page': 1, 'replied': 10, 'finished-course': 3,
    'checkout-started': 6, 'bought': 20, 'renewed': 5,
  },
  thresholds: [15, 40],
}

/** What a person has come to: so many points, as they stood at that instant. */
export interface Score { value: number, at: Instant }

/** What `value` points of the instant `from` are worth at `to`. Earlier than `from` they count as they were. */
export const decayed = (value: number, from: Instant, to: Instant, halfLifeDays: number): number =>
  to <= from ? value : value * 2 ** (-(to - from) / (halfLifeDays * DAY))

export const scoreAt = (score: Score | null, at: Instant, halfLifeDays: number): number =>
  score === null ? 0 : decayed(score.value, score.at, at, halfLifeDays)

/** With points of an instant added, which may be earlier than what is known so far. */
export function withPoints(score: Score | null, points: number, at: Instant, halfLifeDays: number): Score {
  if (score === null) return { value: points, at }
  return at >= score.at
    ? { value: decayed(score.value, score.at, at, halfLifeDays) + points, at }
    : { value: score.value + decayed(points, at, score.at, halfLifeDays), at: score.at }
}

/** The first instant at which a score above `least` has sunk below it; null if it is below already, or never sinks there. */
export function sinksBelow(score: Score | null, least: number, halfLifeDays: number, now: Instant): Instant | null {
  if (score === null || least <= 0 || scoreAt(score, now, halfLifeDays) < least) return null
  const at = Math.floor(score.at + halfLifeDays * DAY * Math.log2(score.value / least))
  // Rounding may leave it a moment too early: it is the first at which it is really less.
  for (let after = Math.max(at, now); ; after++) if (scoreAt(score, after, halfLifeDays) < least) return after
}

/** Points that an event brings by its kind; 0 for none. */
export function pointsOf({ kind, detail }: { kind: EventKind, detail: string | null }, { points }: ScoreRule): number {
  if ((kind === 'opened' || kind === 'clicked' || kind === 'visited-page' || kind === 'file-fetched') && detail !== 'reader') return 0
  return (points as Partial<Record<EventKind, number>>)[kind] ?? 0
}

/** Which thresholds a score passes from below. */
export const reached = (before: number, after: number, thresholds: readonly number[]): number[] =>
  thresholds.filter(least => before < least && after >= least)

/** One line of the sum a person's page shows: what happened, what it brought, what that is worth now. */
export interface ScoreLine { eventId: number, at: Instant, points: number, worth: number }
