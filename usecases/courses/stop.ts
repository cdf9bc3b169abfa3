/** Stopping a course as a whole, letting it go on, and deleting it. */
import { deleteArchived } from '#data/archive'
import type { Database } from '#data/connection'
import { endCourse, findCourse, setStopped, type CourseRow } from '#data/courses'
import { forgetEarlier } from '#data/earlierEmails'
import { appendEvent } from '#data/events'
import { releaseCourse, setCourseAside } from '#data/outboxAside'
import type { WorkspaceContext } from '../context'
import { clearAway } from '../inner/clearing'
import { transact } from '../inner/reactor/transaction'
import { stopOrResumeSome } from '../time/stopAndResume'
import { refuseIfNeeded } from '../inner/uses'
import { NotNow, NotThere } from '../problem'

function courseOf(db: Database, id: number): CourseRow {
  const course = findCourse(db, id)
  if (!course) throw new NotThere('This course no longer exists.')
  return course
}

/**
 * From this moment on nothing of it leaves, nobody gets on in it and nobody comes in; what was waiting waits on, and loses no time by it.
 */
export function stopCourse(context: WorkspaceContext, id: number): void {
  const { db } = context
  transact(context, () => {
    const { status, stoppedAt } = courseOf(db, id)
    if (status !== 'running') throw new NotNow('This course has not been started yet.')
    if (stoppedAt !== null) return
    const at = context.clock.now()
    setStopped(db, id, at, { at, eventId: appendEvent(db, 'course-stood-still', at, { courseId: id }) })
    setCourseAside(db, id)
    stopOrResumeSome(db, id)
  })
  context.wake()
}

/** Everybody goes on with what was left of each wait; who came to its door meanwhile comes in now. */
export function letCourseGoOn(context: WorkspaceContext, id: number): void {
  const { db } = context
  transact(context, () => {
    if (courseOf(db, id).stoppedAt === null) return
    const at = context.clock.now()
    setStopped(db, id, null, { at, eventId: appendEvent(db, 'course-went-on', at, { courseId: id }) })
    releaseCourse(db, id, at)
    deleteArchived(db, { kind: 'course', id })
    stopOrResumeSome(db, id)
  })
  context.wake()
}

/**
 * Who is inside leaves it, and what waits to be sent is withdrawn, some at a time; nothing of it leaves from this moment on. What was sent
 * stays in the histories.
 */
export function removeCourse(context: WorkspaceContext, id: number): void {
  const { db } = context
  transact(context, () => {
    courseOf(db, id)
    refuseIfNeeded(db, { kind: 'course', id })
    const at = context.clock.now()
    const eventId = appendEvent(db, 'course-deleted', at, { courseId: id })
    endCourse(db, id, at)
    forgetEarlier(db, { kind: 'course', ownerId: id })
    clearAway(db, { what: 'scheduled-entries', thingId: id, eventId }, at)
    clearAway(db, { what: 'course', thingId: id, eventId }, at)
  })
  context.wake()
}
