/** The table of subscribers, searched, narrowed and paged; also the people behind a number elsewhere. */
import type { Condition, EmailFate } from '#core/audience/condition'
import { toSql } from '#core/audience/sql'
import type { Status } from '#core/people/status'
import type { CourseNumber, StepNumber } from '#core/views/course'
import type { SubscribersView } from '#core/views/people'
import { findCourse } from '#data/courses'
import type { PeopleQuery } from '#data/people'
import { findPage } from '#data/pages'
import { countPeople, findList, findTag, searchPeople } from '#data/people'
import type { House } from '../house'

export const PAGE_SIZE = 100

/** What went wrong with somebody's email; the last two are looked for within the last seven days. */
export type Trouble = 'waitingAgain' | 'givenUp' | 'heldBack'

export interface SubscribersQuery extends Pick<PeopleQuery, 'search' | 'sort'> {
  status: Status | null
  tagId: number | null
  listId: number | null
  /** Who opted in on this page. */
  pageId: number | null
  /** How people stand with a whole course. */
  standing: { courseId: number, is: CourseNumber } | null
  page: number
  /** The people behind a number of a course's step. */
  behind: { courseId: number, stepId: string, number: StepNumber } | null
  trouble: Trouble | null
}

const NUMBERS: Record<Exclude<StepNumber, 'waiting'>, EmailFate> = { sent: 'sent', heldBack: 'held-back', opened: 'opened', clicked: 'clicked', unsubscribed: 'left-by' }
const NUMBER_WORDS: Record<StepNumber, string> = {
  waiting: 'waiting for', sent: 'who were sent', heldBack: 'held back from', opened: 'who opened', clicked: 'who clicked in', unsubscribed: 'who left by',
}
const STANDING_WORDS: Record<CourseNumber, string> = { inside: 'inside', started: 'who started', finished: 'who came to the end of', left: 'who left' }
const TROUBLES: Record<Trouble, EmailFate> = { givenUp: 'given-up', heldBack: 'held-back', waitingAgain: 'waiting-again' }
const TROUBLE_WORDS: Record<Trouble, string> = { givenUp: 'whose email was given up this week', heldBack: 'held back from an email this week', waitingAgain: 'whose email waits for another try' }

export function subscribersView(house: House, query: SubscribersQuery): SubscribersView {
  const { db } = house
  const where = toSql(conditionOf(query), house.clock.now())
  const found = searchPeople(db, { search: query.search, where, sort: query.sort, limit: PAGE_SIZE, offset: query.page * PAGE_SIZE })
  return { ...found, pageSize: PAGE_SIZE, counts: countPeople(db), narrowedTo: narrowing(house, query) }
}

/** Whatever the table is narrowed to is a condition like any other. */
function conditionOf({ status, tagId, listId, pageId, standing, behind, trouble }: SubscribersQuery): Condition {
  const of: Condition[] = []
  if (status) of.push({ kind: 'status', is: [status] })
  if (tagId !== null) of.push({ kind: 'tag', tagId, since: null })
  if (listId !== null) of.push({ kind: 'list', listId, is: 'joined' })
  if (pageId !== null) of.push({ kind: 'opted-in', pageId, within: null })
  if (standing?.is === 'started') of.push({ kind: 'none', of: [{ kind: 'course', courseId: standing.courseId, is: 'never', stepId: null }] })
  else if (standing) of.push({ kind: 'course', courseId: standing.courseId, is: standing.is, stepId: null })
  if (behind?.number === 'waiting') of.push({ kind: 'course', courseId: behind.courseId, is: 'inside', stepId: behind.stepId })
  else if (behind) of.push({ kind: 'email', fate: NUMBERS[behind.number], which: { courseId: behind.courseId, stepId: behind.stepId }, within: null, times: 1 })
  if (trouble) of.push({ kind: 'email', fate: TROUBLES[trouble], which: null, within: trouble === 'waitingAgain' ? null : { kind: 'last-days', days: 7 }, times: 1 })
  return { kind: 'all', of }
}

function narrowing(house: House, { behind, standing, trouble, tagId, listId, pageId }: SubscribersQuery): string | null {
  if (standing) return `${STANDING_WORDS[standing.is]} ${findCourse(house.db, standing.courseId)?.name ?? 'a course that is gone'}`
  if (listId !== null) return `on the list ${findList(house.db, listId)?.name ?? 'that is gone'}`
  if (pageId !== null) return `who opted in on ${findPage(house.db, pageId)?.name ?? 'a page that is gone'}`
  if (behind) {
    const course = findCourse(house.db, behind.courseId)
    const step = [...course?.published?.steps ?? [], ...course?.draft.steps ?? []].find(({ id }) => id === behind.stepId)
    return `${NUMBER_WORDS[behind.number]} ${step?.content.workingTitle || 'an email'} in ${course?.name ?? 'a course that is gone'}`
  }
  if (trouble) return TROUBLE_WORDS[trouble]
  return tagId === null ? null : `with the tag ${findTag(house.db, tagId)?.name ?? 'that is gone'}`
}
