/** People of an older version of a course are moved to the one that runs. */
import type { Database } from '#data/connection'
import { courseMoving, runningOf, setMoving } from '#data/courses'
import { enrolmentsBehind } from '#data/enrolments'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { upToDate } from '../inner/journeys/advancing'

/** Few enough that a sign-up hardly waits. */
const BATCH = 500

/** Some of one course; when none are left, that is written down. */
export function moveSome(db: Database, courseId: number): void {
  const rows = enrolmentsBehind(db, courseId, runningOf(db, courseId)!.versionId!, BATCH)
  for (const row of rows) upToDate(db, row)
  if (rows.length < BATCH) setMoving(db, courseId, null, null)
}

/** The engine's bit of it; true if there was one. */
export function moveToVersions(context: WorkspaceContext): boolean {
  const { db } = context
  return courseMoving(db) !== null && transact(context, () => {
    const courseId = courseMoving(db)
    if (courseId !== null) moveSome(db, courseId)
    return courseId !== null
  })
}
