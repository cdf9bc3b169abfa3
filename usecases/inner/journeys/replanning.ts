/** Planning anew what is planned for one person. */
import { nearestReturn } from '#core/sequence/returns'
import type { Instant } from '#core/time/zone'
import type { Database } from '#data/connection'
import { programOfVersion, runningCourses } from '#data/courses'
import { openEnrolmentsOfPerson, setOccursOn } from '#data/enrolments'
import { happen } from './advancing'
import { endEnrolments } from './enrolments'
import { dateOf, scheduleEntry } from './scheduledEntries'

/** Plans someone's unsent steps anew, after their zone or a date of theirs has changed. */
export function replanFor(db: Database, personId: number, at: Instant, causeId: number, why: 'zone' | 'date'): void {
  for (const row of openEnrolmentsOfPerson(db, personId)) {
    happen(db, row, { kind: 'replan', at, from: programOfVersion(db, row.versionId), why }, causeId)
  }
  replanEntries(db, personId, at, causeId)
}

/** A date of theirs, or their zone, changed: journeys under way go by what the date is now, and the next coming in does, too. */
export function replanEntries(db: Database, personId: number, at: Instant, causeId: number): void {
  for (const { id: courseId, versionId } of runningCourses(db)) {
    const { dates } = programOfVersion(db, versionId)
    if (!dates) continue
    const date = dateOf(db, dates.fieldId, personId)
    for (const row of openEnrolmentsOfPerson(db, personId)) {
      if (row.courseId !== courseId || row.occursOn === null) continue
      const occursOn = date && nearestReturn(date, dates, row.occursOn)
      if (occursOn === null) endEnrolments(db, personId, at, causeId, 'no-date', one => one.id === row.id)
      else if (occursOn !== row.occursOn) {
        setOccursOn(db, row.id, occursOn)
        happen(db, row, { kind: 'replan', at, from: programOfVersion(db, row.versionId), why: 'date' }, causeId)
      }
    }
    scheduleEntry(db, courseId, personId, at, causeId)
  }
}
