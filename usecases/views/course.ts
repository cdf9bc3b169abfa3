/** A course with its numbers, for its screen and for the list of courses. */
import { astrayWays } from './astray'
import { isWritten } from '#core/message/content'
import { emailsOf } from '#core/sequence/draft'
import { readTogether } from '#data/connection'
import type { CourseCounts, CourseLine, CourseView } from '#core/views/course'
import { allCourses, findCourse, stepNumbers } from '#data/courses'
import { countComings, countWaitingToComeIn } from '#data/doors'
import { courseCounts } from '#data/enrolments'
import { waysOfCourse } from '#data/events'
import { allFields } from '#data/fields'
import { sendingHours } from '#data/workspace'
import type { House } from '../house'
import { soldIn } from '../inner/sold'
import { revisionOf } from '../inner/revision'
import { NotThere } from '../problem'
import { outlookOf } from '../courses/publish'
import { doorsOf } from './doors'

const NOBODY: CourseCounts = { inside: 0, started: 0, finished: 0, left: 0 }

export function courseView(house: House, id: number): CourseView {
  return readTogether(house.db, () => {
    const course = findCourse(house.db, id)
    if (!course) throw new NotThere('This course is not there any more.')
    const { name, status, stoppedAt, draft, changedAt, published } = course
    return {
      id, name, status, stoppedAt, waitsAtDoor: countWaitingToComeIn(house.db, id), draft, changedAt, revision: revisionOf(house, course),
      hasChanges: published !== null && JSON.stringify(published) !== JSON.stringify(draft),
      counts: courseCounts(house.db, id).get(id) ?? NOBODY,
      numbers: [...stepNumbers(house.db, id).values()],
      ways: waysOfCourse(house.db, id),
      sells: emailsOf(draft).map(step => ({ stepId: step.id, offers: soldIn(house, step.content) })).filter(({ offers }) => offers.length > 0),
      doors: doorsOf(house, id, draft),
      astray: astrayWays(house.db, { courseId: id }),
      comingIn: countComings(house.db, id),
      outlook: outlookOf(house, course),
      hours: sendingHours(house.db),
      dateFields: allFields(house.db).filter(({ kind }) => kind === 'date').map(({ id: fieldId, name: fieldName }) => ({ id: fieldId, name: fieldName })),
    }
  })
}

export function courseLines(house: House): CourseLine[] {
  const [counts, courses] = readTogether(house.db, () => [courseCounts(house.db), allCourses(house.db)] as const)
  return courses.map(course => ({
    id: course.id, name: course.name, status: course.status, startedAt: course.startedAt, stoppedAt: course.stoppedAt,
    emails: emailsOf(course.draft).length, empty: emailsOf(course.draft).filter(step => !isWritten(step.content)).length,
    ...NOBODY, ...counts.get(course.id),
  }))
}

