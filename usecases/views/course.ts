/** A course with its numbers, for its screen and for the list of courses. */
import { dequal } from 'dequal'
import { astrayWays } from './astray'
import { isWritten } from '#core/message/content'
import { emailsOf } from '#core/sequence/draft'
import { readTogether } from '#data/connection'
import type { CourseCounts, CourseLine, CourseView } from '#core/views/course'
import { allCourses, findCourse, stepNumbers } from '#data/courses'
import { countScheduledEntries, countWaitingToComeIn } from '#data/entries'
import { courseCounts } from '#data/enrolments'
import { waysOfCourse } from '#data/events'
import { allFields } from '#data/fields'
import { sendingHours } from '#data/workspace'
import type { WorkspaceContext } from '../context'
import { soldIn } from '../inner/sold'
import { revisionOf } from '../inner/revision'
import { NotThere } from '../problem'
import { outlookOf } from '../courses/publish'
import { entriesAndExitsOf } from '../inner/entriesAndExits'

const NOBODY: CourseCounts = { inside: 0, started: 0, finished: 0, left: 0 }

export function courseView(context: WorkspaceContext, id: number): CourseView {
  return readTogether(context.db, () => {
    const course = findCourse(context.db, id)
    if (!course) throw new NotThere('This course no longer exists.')
    const { name, status, stoppedAt, draft, changedAt, published } = course
    return {
      id, name, status, stoppedAt, waitingToEnter: countWaitingToComeIn(context.db, id), draft, changedAt,
      revision: revisionOf(context, course),
      hasChanges: published !== null && !dequal(published, draft),
      counts: courseCounts(context.db, id).get(id) ?? NOBODY,
      numbers: [...stepNumbers(context.db, id).values()],
      ways: waysOfCourse(context.db, id),
      sells: emailsOf(draft).map(step => ({ stepId: step.id, offers: soldIn(context, step.content) }))
        .filter(({ offers }) => offers.length > 0),
      entriesAndExits: entriesAndExitsOf(context, id, draft),
      astray: astrayWays(context.db, { courseId: id }),
      scheduledEntries: countScheduledEntries(context.db, id),
      outlook: outlookOf(context, course),
      hours: sendingHours(context.db),
      dateFields: allFields(context.db).filter(({ kind }) => kind === 'date')
        .map(({ id: fieldId, name: fieldName }) => ({ id: fieldId, name: fieldName })),
    }
  })
}

export function courseLines(context: WorkspaceContext): CourseLine[] {
  const [counts, courses] = readTogether(context.db, () => [courseCounts(context.db), allCourses(context.db)] as const)
  return courses.map(course => ({
    id: course.id, name: course.name, status: course.status, startedAt: course.startedAt, stoppedAt: course.stoppedAt,
    emails: emailsOf(course.draft).length, empty: emailsOf(course.draft).filter(step => !isWritten(step.content)).length,
    ...NOBODY, ...counts.get(course.id),
  }))
}

