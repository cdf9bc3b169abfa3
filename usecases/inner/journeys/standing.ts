/** Journeys stand still, and go on from where they stood. */
import type { Instant } from '#core/time/zone'
import { restsOrPauses } from '#data/choices'
import type { Database } from '#data/connection'
import { isStoppedCourse } from '#data/courses'
import { openEnrolmentsOfPerson } from '#data/enrolments'
import { goOnAt } from '../facts/reacting'
import { happen } from './advancing'

/** As they now do; what the owner lets stand still, alone or with the whole course, stays so. */
export function standOrGo(db: Database, personId: number, at: Instant, causeId: number): void {
  const rests = restsOrPauses(db, personId)
  for (const row of openEnrolmentsOfPerson(db, personId)) {
    const stands = rests || row.stillSince !== null || isStoppedCourse(db, row.courseId)
    if (stands === (row.pausedAt !== null)) continue
    happen(db, row, { kind: stands ? 'paused' : 'resumed', at }, causeId)
    if (!stands) goOnAt(db, row.id, at, causeId)
  }
}
