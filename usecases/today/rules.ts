/** House rules that stand still. */
import { sayRule } from '#core/rules/say'
import type { Notice } from '#core/views/today'
import { allRules } from '#data/rules'
import type { WorkspaceContext } from '../context'
import { ruleNamesOf } from '../inner/names'
import { missingOf } from '../inner/rulesAtWork'

export function ruleNotices({ db }: WorkspaceContext): Notice[] {
  return allRules(db).filter(rule => rule.on && missingOf(db, rule).length > 0).map(rule => ({
    tone: 'trouble' as const, title: 'A house rule does not work',
    text: `Something it names no longer exists: ${sayRule(rule, ruleNamesOf(db))}`, to: `/house-rules/${rule.id}`,
    action: 'Fix the rule',
  }))
}
