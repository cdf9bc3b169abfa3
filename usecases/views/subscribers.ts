/** The table of subscribers, searched and paged; also the people behind a number elsewhere. */
import { DAY } from '#core/time/zone'
import type { StepNumber } from '#core/views/course'
import type { SubscribersView } from '#core/views/people'
import { findCourse, peopleBehind } from '#data/courses'
import { peopleInTrouble } from '#data/outbox'
import type { PeopleQuery } from '#data/people'
import { countPeople, findTag, searchPeople } from '#data/people'
import type { House } from '../house'

export const PAGE_SIZE = 100

export interface SubscribersQuery extends Pick<PeopleQuery, 'search' | 'sort' | 'status' | 'tagId'> {
  page: number
  /** The people behind a number of a course's step. */
  behind: { courseId: number, stepId: string, number: StepNumber } | null
  trouble: 'givenUp' | 'heldBack' | 'waitingAgain' | null
}

const NUMBER_WORDS: Record<StepNumber, string> = {
  waiting: 'waiting for', sent: 'who were sent', heldBack: 'held back from', opened: 'who opened', clicked: 'who clicked in', unsubscribed: 'who left by',
}
const TROUBLE_WORDS = { givenUp: 'whose email was given up this week', heldBack: 'held back from an email this week', waitingAgain: 'whose email waits for another try' }

export function subscribersView(house: House, query: SubscribersQuery): SubscribersView {
  const { db } = house
  const { behind, trouble } = query
  const ids = behind
    ? peopleBehind(db, behind.courseId, behind.stepId, behind.number)
    : trouble ? peopleInTrouble(db, house.clock.now() - 7 * DAY, trouble) : null
  const found = searchPeople(db, { search: query.search, status: query.status, tagId: query.tagId, ids, sort: query.sort, limit: PAGE_SIZE, offset: query.page * PAGE_SIZE })
  return { ...found, pageSize: PAGE_SIZE, counts: countPeople(db), narrowedTo: narrowing(house, query) }
}

function narrowing(house: House, { behind, trouble, tagId }: SubscribersQuery): string | null {
  if (behind) {
    const course = findCourse(house.db, behind.courseId)
    const step = [...course?.published?.steps ?? [], ...course?.draft.steps ?? []].find(({ id }) => id === behind.stepId)
    return `${NUMBER_WORDS[behind.number]} ${step?.content.workingTitle || 'an email'} in ${course?.name ?? 'a course that is gone'}`
  }
  if (trouble) return TROUBLE_WORDS[trouble]
  return tagId === null ? null : `with the tag ${findTag(house.db, tagId)?.name ?? 'that is gone'}`
}
