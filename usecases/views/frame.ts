/** What stands around every screen: the wall and the rail. */
import { DAY, HOUR, type Instant } from '#core/time/zone'
import { backlog } from '#data/due'
import { allCourses } from '#data/courses'
import { allPages } from '#data/pages'
import { allLists, allTags, countPeople } from '#data/people'
import { practiceClock, workspaceOf } from '#data/workspace'
import type { House } from '../house'
import type { ComingSend } from './forecast'
import { forecast } from './forecast'

export interface FrameView {
  workspace: { name: string, zone: string, mode: 'practice' | 'live' }
  counts: { pages: number, subscribers: number, tagsAndLists: number, courses: number }
}

export function frameView(house: House): FrameView {
  const { db } = house
  const { name, zone, mode } = workspaceOf(db)
  const people = countPeople(db)
  return {
    workspace: { name, zone, mode },
    counts: {
      pages: allPages(db).length,
      subscribers: people.pending + people.active + people.resting,
      tagsAndLists: allTags(db).length + allLists(db).length,
      courses: allCourses(db).length,
    },
  }
}

export interface RailView {
  now: Instant
  /** Where the practice clock is going, while it moves. */
  movingTo: Instant | null
  zone: string
  /** Things that are due and not done yet. */
  backlog: number
  posts: (ComingSend & { courseName: string, title: string })[]
}

const RAIL_DAYS = 7
/** Sends this close together share a post: closer ones could not be told apart on the rail. */
const POST_STRETCH = 2 * HOUR

export function railView(house: House): RailView {
  const { db } = house
  const now = house.clock.now()
  const clock = practiceClock(db)
  const titles = stepTitles(house)
  return {
    now,
    movingTo: clock && clock.targetAt > clock.nowAt ? clock.targetAt : null,
    zone: workspaceOf(db).zone,
    backlog: backlog(db, now),
    posts: forecast(house, now + RAIL_DAYS * DAY, POST_STRETCH).map(send => ({ ...send, ...titles(send) })),
  }
}

/** The names of a coming send. */
export function stepTitles(house: House): (send: { courseId: number, stepId: string }) => { courseName: string, title: string } {
  const courses = new Map(allCourses(house.db).map(course => [course.id, course]))
  return ({ courseId, stepId }) => {
    const course = courses.get(courseId)!
    const steps = [...course.published?.steps ?? [], ...course.draft.steps]
    const step = steps.find(({ id }) => id === stepId)
    return { courseName: course.name, title: step?.content.workingTitle || 'an email that was taken out' }
  }
}
