/** Points as settings and as a person's sum. */
import type { ScoreRule } from '#core/score/score'
import type { Instant } from '#core/time/zone'

export interface ScoreView {
  rule: ScoreRule
  /** True while everybody is reckoned anew. */
  recalculating: boolean
  /** Each threshold with how many people are at or above it now; `byRule` where a house rule waits for it. */
  standing: { least: number, people: number, byRule: boolean }[]
}

export interface ScoreOfPerson {
  value: number
  halfLifeDays: number
  /** Newest first. `ruleId` of the rule that gave them. */
  lines: { at: Instant, says: string, points: number, worth: number, ruleId: number | null }[]
  rest: { count: number, worth: number }
}
