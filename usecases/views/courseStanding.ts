/** Who stands where in a course, the longest first. */
import type { CourseStanding } from '#core/views/course'
import { readTogether } from '#data/connection'
import { countInside, whoStands } from '#data/enrolments'
import type { WorkspaceContext } from '../context'

/** So many on one page of it. */
export const STANDING_PAGE = 50

export function courseStanding(
  { db }: WorkspaceContext, { courseId, stepId, from }: { courseId: number, stepId: string | null, from: number },
): CourseStanding {
  return readTogether(db, () => ({
    inside: countInside(db, courseId),
    rows: whoStands(db, courseId, stepId, STANDING_PAGE, from).map(({ held, ...row }) => ({ ...row, held: held === 1 })),
  }))
}
