/** Points: what is given, and the thresholds that are passed by it. */
import { reached, scoreAt, withPoints } from '#core/score/score'
import type { Instant } from '#core/time/zone'
import type { Database } from '#data/connection'
import { appendEvent } from '#data/events'
import { insertGivenPoints, scoreOf, scoreRule, setScore } from '#data/scores'
import { rulesAtWork } from '../rulesAtWork'

/** What a rule, or a link that was followed, gives for an event. */
export function givePoints(
  db: Database, personId: number, points: number, { at, causeId, ruleId }: { at: Instant, causeId: number, ruleId: number | null },
): void {
  insertGivenPoints(db, { eventId: causeId, personId, ruleId, at, points })
  addPoints(db, personId, points, at, causeId)
}

export function addPoints(db: Database, personId: number, points: number, at: Instant, causeId: number): void {
  const { halfLifeDays, thresholds } = scoreRule(db)
  const before = scoreOf(db, personId)
  const after = withPoints(before, points, at, halfLifeDays)
  setScore(db, personId, after)
  const wanted = [...thresholds, ...rulesAtWork(db).thresholds]
  const passed = reached(scoreAt(before, after.at, halfLifeDays), after.value, [...new Set(wanted)].sort((a, b) => a - b))
  for (const least of passed) appendEvent(db, 'reached-score', at, { personId, causeId, detail: String(least) })
}
