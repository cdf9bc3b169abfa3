/** The table of subscribers, searched, narrowed and paged; also the people behind a number elsewhere. */
import { latestHeldBack } from '#data/outbox'
import { sayHeldBack, type HeldBackReason } from '#core/sending/checks'
import { EVERYBODY, leavesOf, type Condition, type EmailFate, type Leaf } from '#core/audience/condition'
import { standingConditions } from '#core/audience/heldBack'
import { sayCondition } from '#core/audience/say'
import { toCount, toSql } from '#core/audience/sql'
import type { Status } from '#core/people/status'
import type { CourseNumber, StepNumber } from '#core/views/course'
import type { ListedPerson, SubscribersCount, SubscribersView } from '#core/views/people'
import { readTogether } from '#data/connection'
import type { PeopleQuery } from '#data/people'
import { countPeople, countWhere, searchPeople } from '#data/people'
import type { WorkspaceContext } from '../context'
import { momentOf } from '../inner/moment'
import { namesOf } from '../inner/names'
import { checkCondition } from '../know/segments'
import { InputProblem } from '../problem'

export const PAGE_SIZE = 100

/** What went wrong with somebody's email; the last two are looked for within the last seven days. */
export type Trouble = 'waitingAgain' | 'givenUp' | 'heldBack' | 'repeated'

/** Whom the table shows. What is null narrows nothing. */
export interface Narrowing {
  /** Any condition. The others are short ways of saying one, for the numbers of other screens. */
  where: Condition | null
  status: Status | null
  tagId: number | null
  listId: number | null
  segmentId: number | null
  /** Who opted in on this page. */
  pageId: number | null
  /** How people stand with a whole course. */
  standing: { courseId: number, is: CourseNumber } | null
  /** The people behind a number of a course's step. */
  behind: { courseId: number, stepId: string, number: StepNumber } | null
  trouble: Trouble | null
  /** For whom this is the first reason why they could not be sent anything now; or whom nothing holds back. */
  heldBack: HeldBackReason | 'nothing' | null
}

export const NOT_NARROWED: Narrowing = {
  where: null, status: null, tagId: null, listId: null, segmentId: null, pageId: null, standing: null, behind: null, trouble: null,
  heldBack: null,
}

export interface SubscribersQuery extends Narrowing, Pick<PeopleQuery, 'search' | 'sort'> {
  page: number
}

const NUMBERS: Record<Exclude<StepNumber, 'waiting'>, EmailFate> = { sent: 'sent', heldBack: 'held-back', opened: 'opened', clicked: 'clicked', unsubscribed: 'left-by' }
const TROUBLES: Record<Trouble, EmailFate> = { givenUp: 'given-up', heldBack: 'held-back', waitingAgain: 'waiting-again', repeated: 'maybe-twice' }

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
      slow: emails.some(leaf => leaf.times > 1) ? 'at-once' : emails.length > 0 ? 'one-by-one' : null, sort: query.sort, limit: PAGE_SIZE, offset: query.page * PAGE_SIZE,
    })
    return {
      rows, pageSize: PAGE_SIZE, condition, narrowedTo: sayCondition(condition, namesOf(db)), heldBack: reasonsOf(context, rows, emails),
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

function checkedCondition({ db }: WorkspaceContext, query: Narrowing): Condition {
  const problem = query.where && checkCondition(db, query.where, null)
  if (problem) throw new InputProblem([{ field: 'where', problem }])
  return conditionOf(query)
}

export function conditionOf({
  where, status, behind, standing, trouble, tagId, listId, segmentId, pageId, heldBack,
}: Narrowing): Condition {
  const of: Condition[] = []
  if (status) of.push({ kind: 'status', is: [status] })
  if (tagId !== null) of.push({ kind: 'tag', tagId, since: null })
  if (listId !== null) of.push({ kind: 'list', listId, is: 'joined' })
  if (segmentId !== null) of.push({ kind: 'segment', segmentId })
  if (pageId !== null) of.push({ kind: 'opted-in', pageId, within: null })
  if (behind?.number === 'waiting') of.push({ kind: 'course', courseId: behind.courseId, is: 'inside', stepId: behind.stepId })
  else if (behind) of.push({ kind: 'email', fate: NUMBERS[behind.number], which: { kind: 'course', ownerId: behind.courseId, itemId: behind.stepId }, within: null, times: 1, url: null })
  if (trouble) of.push({ kind: 'email', fate: TROUBLES[trouble], which: null, within: trouble === 'waitingAgain' ? null : { kind: 'last-days', days: 7 }, times: 1, url: null })
  if (standing) of.push({ kind: 'course', courseId: standing.courseId, is: standing.is === 'started' ? 'ever' : standing.is, stepId: null })
  if (heldBack) of.push(...standingConditions(heldBack))
  if (of.length === 0) return where ?? EVERYBODY
  return where === null ? { kind: 'all', of } : within(where, of)
}

/** Put where it nests no deeper than it did: among what belongs, if it has the two parts of the editor. */
function within(where: Condition, of: Condition[]): Condition {
  if (where.kind !== 'all') return { kind: 'all', of: [...of, where] }
  const [first, ...others] = where.of
  return others.length === 1 && first!.kind === 'all' && others[0]!.kind === 'none'
    ? { kind: 'all', of: [{ kind: 'all', of: [...of, ...first!.of] }, ...others] }
    : { kind: 'all', of: [...of, ...where.of] }
}
