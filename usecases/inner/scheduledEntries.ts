/** Coming into a course at a time of one's own: with a date, or when it is one's turn. */
import { nearestReturn, nextOccurrence, standingSince } from '#core/sequence/comeIn'
import { toSql, type SqlCondition } from '#core/audience/sql'
import type { Program } from '#core/sequence/program'
import type { CourseDraft } from '#core/sequence/draft'
import type { Instant, LocalDate } from '#core/time/zone'
import { isDate } from '#core/time/zone'
import type { Database } from '#data/connection'
import { findCourse, isStoppedCourse, programOfVersion, runningCourses, runningOf } from '#data/courses'
import { endScheduledEntry, hasSince, setScheduledEntry, type ScheduledEntry, type EntryTriggers } from '#data/entries'
import { openEnrolmentsOfPerson, setOccursOn, visitsOf } from '#data/enrolments'
import { fieldOfPerson } from '#data/fields'
import { findPerson } from '#data/people'
import { endEnrolments, enrol, factsFor, happen, workspaceFacts, type WayIn } from './enrolments'
import { momentOf } from './moment'
import { NotNow } from '../problem'

export const entryTriggersOf = (courseId: number, { wayInTagIds, wayInListIds = [] }: Pick<CourseDraft, 'wayInTagIds' | 'wayInListIds'>): EntryTriggers => ({ courseId, tagIds: wayInTagIds, listIds: wayInListIds })

/** Who may come in at all, as an expression; null for everybody. */
export const entrySql = (db: Database, { entry }: Pick<Program, 'entry'>, at: Instant): SqlCondition | null => entry ? toSql(entry, momentOf(db, at)) : null

/** Somebody whose time has come is let in; who comes with a date will come in again with its next return. */
export function comeIn(db: Database, row: ScheduledEntry): void {
  const { courseId, personId, dueAt, occursOn } = row
  endScheduledEntry(db, courseId, personId)
  if ((runningOf(db, courseId)?.versionId ?? null) === null || !findPerson(db, personId)) return
  const came = enrol(db, { courseId, personId, at: dueAt, causeId: row.causeId, ownAct: false, ...occursOn !== null && { occursOn } })
  // Who waits for a stopped course waits with this return of their date.
  if (occursOn !== null && !(came === 'stays-out' && isStoppedCourse(db, courseId))) scheduleEntry(db, courseId, personId, dueAt, row.causeId)
}

/** When someone comes next into a course of dates: written down, or that they do not. True if they do. */
export function scheduleEntry(db: Database, courseId: number, personId: number, after: Instant, causeId: number): boolean {
  const { versionId } = runningOf(db, courseId)!
  const program = programOfVersion(db, versionId!)
  const person = findPerson(db, personId)
  const date = person && dateOf(db, program.dates!.fieldId, personId)
  const next = date ? nextOccurrence(program, date, after, { ...workspaceFacts(db), personZone: person.zone }) : null
  const been = next && program.dates!.everyMonths === 0 && visitsOf(db, courseId, personId).some(({ occursOn }) => occursOn === next.occursOn)
  if (next && !been) setScheduledEntry(db, { courseId, personId, dueAt: next.at, occursOn: next.occursOn, causeId })
  else endScheduledEntry(db, courseId, personId)
  return next !== null && !been
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

const dateOf = (db: Database, fieldId: number, personId: number): LocalDate | null => {
  const value = fieldOfPerson(db, fieldId, personId)
  return typeof value === 'string' && isDate(value) ? value : null
}

/** By the date they would have joined on. Who would be past its end stays out. */
export function enrolSince(db: Database, way: Pick<WayIn, 'courseId' | 'personId' | 'at' | 'causeId'>): 'enrolled' | 'stays-out' | 'past-its-end' {
  const { courseId, personId, at } = way
  const course = findCourse(db, courseId)
  if (!course) throw new NotNow('This course is not there any more.')
  const person = findPerson(db, personId)!
  const program = programOfVersion(db, course.versionId!)
  const joinedAt = Math.min(at, hasSince(db, personId, entryTriggersOf(courseId, course.published!)) ?? at)
  const since = standingSince(program, joinedAt, at, factsFor(db, person, { courseId, visit: 1, occursOn: null, program }))
  if (since.status === 'finished') return 'past-its-end'
  return enrol(db, { ...way, ownAct: false, since })
}

