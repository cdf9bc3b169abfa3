/** What conditions are read against: now, the workspace's day and rules, and the saved segments. */
import type { Condition, Moment } from '#core/audience/condition'
import type { Instant } from '#core/time/zone'
import { localOf } from '#core/time/zone'
import type { Database } from '#data/connection'
import { allSegments } from '#data/segments'
import { scoreRule } from '#data/scores'
import { consentRule, workspaceOf } from '#data/workspace'

export function momentOf(db: Database, now: Instant): Moment {
  const { zone } = workspaceOf(db)
  const segments = new Map<number, Condition>(allSegments(db).map(({ id, condition }) => [id, condition]))
  return { now, zone, today: localOf(now, zone).date, consent: consentRule(db), score: scoreRule(db), segments }
}
