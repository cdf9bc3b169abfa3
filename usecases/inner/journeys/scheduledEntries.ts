/** Coming into a course at a time of one's own: with a date, or when it is one's turn. */
import { nextOccurrence, standingSince } from '#core/sequence/returns'
import type { Instant, LocalDate } from '#core/time/zone'
import { isDate } from '#core/time/zone'
import type { Database } from '#data/connection'
import { findCourse, isStoppedCourse, programOfVersion, runningOf } from '#data/courses'
import { visitsOf } from '#data/enrolments'
import { endScheduledEntry, hasSince, setScheduledEntry, type ScheduledEntry } from '#data/entries'
import { fieldOfPerson } from '#data/fields'
import { findPerson } from '#data/people'
import { NotNow } from '../../problem'
import { entryTriggersOf } from '../entries'
import { factsFor } from '../journeyFacts'
import { workspaceFacts } from '../workspaceFacts'
import { enrol, type WayIn } from './enrolments'

/** Somebody whose time has come is let in; who comes with a date will come in again with its next return. */
export function enrolDue(db: Database, row: ScheduledEntry): void {
  const { courseId, personId, dueAt, occursOn } = row
  endScheduledEntry(db, courseId, personId)
  if ((runningOf(db, courseId)?.versionId ?? null) === null || !findPerson(db, personId)) return
  const came = enrol(db, { courseId, personId, at: dueAt, causeId: row.causeId, ownAct: false, ...occursOn !== null && { occursOn } })
  // Who waits for a stopped course waits with this return of their date.
  if (occursOn !== null && !(came === 'stays-out' && isStoppedCourse(db, courseId))) {
    scheduleEntry(db, courseId, personId, dueAt, row.causeId)
  }
}

/** When someone comes next into a course of dates: written down, or that they do not. True if they do. */
export function scheduleEntry(db: Database, courseId: number, personId: number, after: Instant, causeId: number): boolean {
  const { versionId } = runningOf(db, courseId)!
  const program = programOfVersion(db, versionId!)
  const person = findPerson(db, personId)
  const date = person && dateOf(db, program.dates!.fieldId, personId)
  const next = date ? nextOccurrence(program, date, after, { ...workspaceFacts(db), personZone: person.zone }) : null
  const been = next && program.dates!.everyMonths === 0
    && visitsOf(db, courseId, personId).some(({ occursOn }) => occursOn === next.occursOn)
  if (next && !been) setScheduledEntry(db, { courseId, personId, dueAt: next.at, occursOn: next.occursOn, causeId })
  else endScheduledEntry(db, courseId, personId)
  return next !== null && !been
}

/** A date of theirs, if it is known. */
export const dateOf = (db: Database, fieldId: number, personId: number): LocalDate | null => {
  const value = fieldOfPerson(db, fieldId, personId)
  return typeof value === 'string' && isDate(value) ? value : null
}

/** By the date they would have joined on. Who would be past its end stays out. */
export function enrolSince(
  db: Database, way: Pick<WayIn, 'courseId' | 'personId' | 'at' | 'causeId'>,
): 'enrolled' | 'stays-out' | 'past-its-end' {
  const { courseId, personId, at } = way
  const course = findCourse(db, courseId)
  if (!course) throw new NotNow('This course no longer exists.')
  const person = findPerson(db, personId)!
  const program = programOfVersion(db, course.versionId!)
  const joinedAt = Math.min(at, hasSince(db, personId, entryTriggersOf(courseId, course.published!)) ?? at)
  const since = standingSince(program, joinedAt, at, factsFor(db, person, { courseId, visit: 1, occursOn: null, program }))
  if (since.status === 'finished') return 'past-its-end'
  return enrol(db, { ...way, ownAct: false, since })
}

