/** A course was stopped as a whole, or goes on: everybody in it is brought to that, some at a time. */
import type { Database } from '#data/connection'
import { courseStoppingOrResuming, endStopChange, runningOf } from '#data/courses'
import { releaseEntries } from '#data/entries'
import { enrolmentsToStopOrResume } from '#data/enrolments'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { upToDate } from '../inner/journeys/advancing'

/** Few enough that a sign-up hardly waits. */
const BATCH = 500

/** Some of one course; when none are left, that is written down. Nobody in it gets on before, whoever's turn it is. */
export function stopOrResumeSome(db: Database, courseId: number): void {
  const { stoppedAt, stopChangedAt } = runningOf(db, courseId)!
  const rows = enrolmentsToStopOrResume(db, courseId, stoppedAt !== null, BATCH)
  for (const row of rows) upToDate(db, row)
  const released = stoppedAt === null ? releaseEntries(db, courseId, stopChangedAt!, BATCH) : 0
  if (rows.length < BATCH && released < BATCH) endStopChange(db, courseId)
}

/** The engine's bit of it; true if there was one. */
export function stopOrResumeCourses(context: WorkspaceContext): boolean {
  const { db } = context
  return courseStoppingOrResuming(db) !== null && transact(context, () => {
    const courseId = courseStoppingOrResuming(db)
    if (courseId !== null) stopOrResumeSome(db, courseId)
    return courseId !== null
  })
}
