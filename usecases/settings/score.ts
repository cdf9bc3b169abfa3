/** What brings points, how they fade, and which sums are events. */
import { decayed, scoreAt, SCORED_KINDS, type ScoreRule } from '#core/score/score'
import type { Instant } from '#core/time/zone'
import type { ScoreOfPerson, ScoreView } from '#core/views/score'
import { sayEvent } from '#core/events'
import type { Database } from '#data/connection'
import { toldEvent } from '#data/events'
import { allRules } from '#data/rules'
import { broughtTo, isRecalculating, scoreOf, scoreRule, scoresAbove, setScoreRule } from '#data/scores'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'

/** Everybody is reckoned anew by it, bit by bit; nobody passes a threshold by that. */
export function saveScoreRule(context: WorkspaceContext, rule: ScoreRule): void {
  const points = Object.fromEntries(SCORED_KINDS.flatMap(kind => rule.points[kind] ? [[kind, rule.points[kind]]] : []))
  transact(context, () => setScoreRule(context.db, { ...rule, points, thresholds: [...new Set(rule.thresholds)].sort((a, b) => a - b) }))
  context.wake()
}

export function scoreView({ db, clock }: WorkspaceContext): ScoreView {
  const rule = scoreRule(db)
  const byRules = [...new Set(allRules(db).flatMap(({ when }) => when.kind === 'reached-score' && when.points ? [when.points] : []))]
  return {
    rule, recalculating: isRecalculating(db),
    standing: [...new Set([...rule.thresholds, ...byRules])].sort((a, b) => a - b)
      .map(least => ({ least, people: scoresAbove(db, least, clock.now(), rule.halfLifeDays), byRule: byRules.includes(least) })),
  }
}

/** So many lines of the sum are shown; the rest stands in one line. */
const LINES = 40

/** What somebody's points come from, as a sum that can be followed. */
export function scoreOfPerson(db: Database, personId: number, now: Instant): ScoreOfPerson {
  const rule = scoreRule(db)
  const brought = broughtTo(
    db, personId, rule,
  ).map(({ eventId, at, points, ruleId }) => ({ eventId, at, points, ruleId, worth: decayed(points, at, now, rule.halfLifeDays) }))
  const rest = brought.slice(LINES)
  return {
    value: scoreAt(scoreOf(db, personId), now, rule.halfLifeDays), halfLifeDays: rule.halfLifeDays,
    lines: brought.slice(0, LINES).map(({ eventId, ...line }) => ({ ...line, says: sayEvent(toldEvent(db, eventId)!) })),
    rest: { count: rest.length, worth: rest.reduce((sum, { worth }) => sum + worth, 0) },
  }
}
