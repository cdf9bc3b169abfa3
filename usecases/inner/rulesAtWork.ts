/** The house rules that can act just now. */
import { thingsIn, type Rule, type RuleInput } from '#core/rules/rule'
import type { Thing } from '#core/things'
import { indexRules, type RuleIndex } from '#core/rules/waking'
import { memoize, type Database } from '#data/connection'
import { allRules, rulesChange } from '#data/rules'
import { isThere } from '#data/things'

/** Rules that are on and miss nothing they name, kept until one of them is changed, or a change of them is taken back. */
export function rulesAtWork(db: Database): { rules: Rule[], index: RuleIndex, thresholds: number[] } {
  return memoize(db, 'rules at work', rulesChange(db), () => {
    const rules = allRules(db).filter(rule => rule.on && missingOf(db, rule).length === 0)
    return {
      rules, index: indexRules(rules),
      thresholds: rules.flatMap(({ when }) => when.kind === 'reached-score' && when.points ? [when.points] : []),
    }
  })
}

/** What a rule names and no longer exists. */
export function missingOf(db: Database, rule: RuleInput): Thing[] {
  return thingsIn(rule).filter(({ kind, id }) => !isThere(db, kind, id))
}
