/** A course with its numbers, for its screen and for the list of courses. */
import { saysTheSame } from '#core/message/same'
import { astrayWays } from './astray'
import { isWritten, linksOf } from '#core/message/blocks'
import { nameOfMessage } from '#core/message/content'
import { isReservedHost } from '#core/people/address'
import { emailsOf, type CourseDraft } from '#core/sequence/draft'
import { readTogether } from '#data/connection'
import type { CourseCounts, CourseLine, CourseView } from '#core/views/course'
import { allCourses, findCourse, stepNumbers } from '#data/courses'
import { countScheduledEntries, countWaitingToComeIn } from '#data/entries'
import { courseCounts } from '#data/enrolments'
import { waysOfCourse } from '#data/events'
import { allFields } from '#data/fields'
import { findLink } from '#data/links'
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
      hasChanges: published !== null && !saysTheSame(published, draft),
      counts: courseCounts(context.db, id).get(id) ?? NOBODY,
      numbers: [...stepNumbers(context.db, id).values()],
      ways: waysOfCourse(context.db, id),
      sells: emailsOf(draft).map(step => ({ stepId: step.id, offers: soldIn(context, step.content) }))
        .filter(({ offers }) => offers.length > 0),
      examples: context.mode === 'live' ? examplesIn(context, draft) : [],
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

/** Nobody is ever at such an address: readers who click would find nothing. In practice everything is made up. */
const examplesIn = ({ db }: WorkspaceContext, draft: CourseDraft): CourseView['examples'] => emailsOf(draft).map(step => ({
  stepId: step.id,
  urls: linksOf(step.content.body).map(({ url, linkId }) => (linkId === null ? null : findLink(db, linkId)?.url) ?? url)
    .filter(url => isReservedHost(URL.parse(url)?.hostname ?? '')),
})).filter(({ urls }) => urls.length > 0)

export function courseLines(context: WorkspaceContext): CourseLine[] {
  const [counts, courses] = readTogether(context.db, () => [courseCounts(context.db), allCourses(context.db)] as const)
  return courses.map(course => ({
    id: course.id, name: course.name, status: course.status, startedAt: course.startedAt, stoppedAt: course.stoppedAt,
    subjects: emailsOf(course.draft).map(step => nameOfMessage({ workingTitle: '', subject: step.content.subject })).filter(Boolean),
    emails: emailsOf(course.draft).length, empty: emailsOf(course.draft).filter(step => !isWritten(step.content)).length,
    ...NOBODY, ...counts.get(course.id),
  }))
}

