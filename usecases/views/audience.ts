/** Whom a condition holds for. Slow for many people: the server asks these in a thread of their own. */
import type { Condition } from '#core/audience/condition'
import { isGroup } from '#core/audience/condition'
import { standingConditions, STANDING_REASONS } from '#core/audience/heldBack'
import { sayCondition } from '#core/audience/say'
import { toSql } from '#core/audience/sql'
import { toSqlThen } from '#core/audience/then'
import { DAY } from '#core/time/zone'
import type { AudienceMore, AudienceView, AudienceQuery } from '#core/views/audience'
import { countByReason, overlapWith, sampleOf } from '#data/audience'
import { readTogether } from '#data/connection'
import { countWhere } from '#data/people'
import { allSegments } from '#data/segments'
import type { WorkspaceContext } from '../context'
import { momentOf } from '../inner/moment'
import { namesOf } from '../inner/names'
import { checkCondition } from '../know/segments'
import { InputProblem } from '../problem'

export function audienceView(context: WorkspaceContext, { condition, segmentId }: AudienceQuery): AudienceView {
  const { db } = context
  return readTogether(db, () => {
    check(context, condition, segmentId)
    const moment = momentOf(db, context.clock.now())
    const where = toSql(condition, moment)
    const counts = countByReason(db, where, STANDING_REASONS.map(reason => [reason, toSql({
      kind: 'all', of: standingConditions(reason),
    }, moment)]))
    return {
      at: moment.now,
      says: sayCondition(condition, namesOf(db)),
      people: [...counts.values()].reduce((sum, people) => sum + people, 0),
      heldBack: STANDING_REASONS.flatMap(reason => counts.has(reason) ? [{ reason, people: counts.get(reason)! }] : []),
      five: sampleOf(db, where, 5).map(({ id, address, firstName }) => ({ id, address, name: firstName || address })),
    }
  })
}

export function audienceMore(context: WorkspaceContext, { condition, segmentId }: AudienceQuery): AudienceMore {
  const { db } = context
  return readTogether(db, () => {
    check(context, condition, segmentId)
    const now = context.clock.now()
    const at = now - 30 * DAY
    const both = overlapWith(db, toSql(condition, momentOf(db, now)))
    const others = allSegments(db).filter(segment => segment.id !== segmentId && both.has(segment.id))
    return {
      then: { at, people: countWhere(db, { search: '', where: toSqlThen(condition, momentOf(db, at)) }) },
      overlap: others.map(({ id, name }) => ({ id, name, ...both.get(id)! })).sort((a, b) => b.both - a.both),
    }
  })
}

function check(context: WorkspaceContext, condition: Condition, segmentId: number | null): void {
  const problem = isGroup(condition) ? checkCondition(context.db, condition, segmentId) : 'A condition begins with a group.'
  if (problem) throw new InputProblem([{ field: 'condition', problem }])
}
