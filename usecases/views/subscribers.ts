/** The table of subscribers, searched, narrowed and paged; also the people behind a number elsewhere. */
import { latestHeldBack } from '#data/outbox'
import { sayHeldBack } from '#core/sending/reasons'
import { leavesOf, type Condition, type Leaf } from '#core/audience/condition'
import { sayCondition } from '#core/audience/say'
import { toCount, toSql } from '#core/audience/sql'
import type { ListedPerson, SubscribersCount, SubscribersView } from '#core/views/people'
import { readTogether } from '#data/connection'
import type { PeopleQuery } from '#data/people'
import { countPeople, countWhere, searchPeople } from '#data/people'
import type { WorkspaceContext } from '../context'
import { momentOf } from '../inner/moment'
import { namesOf } from '../inner/names'
import { behindBroadcast, conditionOf, type Narrowing } from '../inner/narrowing'
import { checkCondition } from '../know/segments'
import { InputProblem } from '../problem'

export const PAGE_SIZE = 100

export interface SubscribersQuery extends Narrowing, Pick<PeopleQuery, 'search' | 'sort'> {
  page: number
}

/** One page of the table. How many there are in all takes longer, and is asked beside it. */
export function subscribersView(context: WorkspaceContext, query: SubscribersQuery): SubscribersView {
  const { db } = context
  return readTogether(db, () => {
    const condition = checkedCondition(context, query)
    const moment = momentOf(db, context.clock.now())
    const emails = leavesOf(condition).filter(leaf => leaf.kind === 'email')
    const rows = searchPeople(db, {
      search: query.search, where: toSql(condition, moment), whereEach: toSql(condition, moment, 'each'),
      // Counting everybody's emails takes longest; looking through somebody's emails takes longer than everything else about them.
      slow: emails.some(leaf => leaf.times > 1)
        ? 'at-once'
        : emails.length > 0 ? 'one-by-one' : null, sort: query.sort, limit: PAGE_SIZE, offset: query.page * PAGE_SIZE,
    })
    return {
      rows, pageSize: PAGE_SIZE, condition, 
      narrowedTo: query.ofBroadcast ? behindBroadcast(context, query.ofBroadcast).says : sayCondition(condition, namesOf(db)),
      heldBack: reasonsOf(context, rows, emails),
    }
  })
}

/** Told only where somebody asks for people of whom something was held back. */
function reasonsOf(
  { db }: WorkspaceContext, rows: readonly ListedPerson[], emails: readonly Extract<Leaf, { kind: 'email' }>[]
): Record<number, string> | null {
  const asked = emails.find(({ fate }) => fate === 'held-back')
  if (!asked) return null
    return Object.fromEntries(latestHeldBack(db, rows.map(({ id }) => id), asked.which).map(({
    personId, reason, listName,
  }) => [personId, sayHeldBack(reason, listName)]))
}

export function subscribersCount(context: WorkspaceContext, query: Pick<SubscribersQuery, 'search'> & Narrowing): SubscribersCount {
  const { db } = context
  return readTogether(db, () => ({
    total: countWhere(db, { search: query.search, where: toCount(checkedCondition(context, query), momentOf(db, context.clock.now())) }),
    counts: countPeople(db),
  }))
}

function checkedCondition(context: WorkspaceContext, query: Narrowing): Condition {
  const { db } = context
  const problem = query.where && checkCondition(db, query.where, null)
  if (problem) throw new InputProblem([{ field: 'where', problem }])
  return conditionOf(context, query)
}
