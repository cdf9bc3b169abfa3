/** Moving enrolments: every change of one goes through core's advance() and is written down here. */
import type { Advanced, Facts, Happening } from '#core/sequence/advance'
import { advance } from '#core/sequence/advance'
import { dateFieldsOf } from '#core/sequence/program'
import { isGone } from '#core/people/status'
import type { FieldValue } from '#core/people/field'
import { isDate, type Instant, type LocalDate } from '#core/time/zone'
import { pauseOf } from '#data/choices'
import { findCourse, programOfVersion, runningVersions } from '#data/courses'
import type { EnrolmentRow } from '#data/enrolments'
import { insertEnrolment, openEnrolmentsOfPerson, saveEnrolment, visitsOf } from '#data/enrolments'
import { appendEvent } from '#data/events'
import { fieldOfPerson } from '#data/fields'
import { insertEmail, withdraw } from '#data/outbox'
import type { Person } from '#core/views/people'
import { findPerson } from '#data/people'
import { sendingHours, workspaceOf } from '#data/workspace'
import type { Database } from '#data/connection'
import { NotNow } from '../problem'

export function factsFor(db: Database, person: Pick<Person, 'id' | 'zone'>): Facts {
  return { ...houseFacts(db), personZone: person.zone, dateOf: fieldId => dateIn(fieldOfPerson(db, fieldId, person.id)) }
}

/** What counts for everybody. */
export const houseFacts = (db: Database): Pick<Facts, 'workspaceZone' | 'hours'> => ({ workspaceZone: workspaceOf(db).zone, hours: sendingHours(db) })

const dateIn = (value: FieldValue | undefined | null): LocalDate | null => typeof value === 'string' && isDate(value) ? value : null

/** The date fields by which running courses go. */
export const dateFieldsRunning = (db: Database): number[] => [...new Set(runningVersions(db).flatMap(versionId => dateFieldsOf(programOfVersion(db, versionId))))]

export interface WayIn {
  courseId: number
  personId: number
  /** When they came in, by event time. */
  at: Instant
  causeId: number
  /** True if their own act brought them in: then the first at-once email is asked-for mail. */
  ownAct: boolean
}

/** Lets someone into a running course, or writes down why this way in did nothing. */
export function enrol(db: Database, { courseId, personId, at, causeId, ownAct }: WayIn): 'enrolled' | 'stays-out' {
  const course = findCourse(db, courseId)
  const person = findPerson(db, personId)
  if (!course || !person || course.versionId === null) throw new NotNow('This course is not running')
  const visits = visitsOf(db, courseId, personId)
  const reason = visits.some(visit => visit.status === 'open')
    ? 'inside'
    : course.again === 'once' && visits.length > 0 ? 'once' : isGone(person.status) ? person.status : null
  if (reason) {
    appendEvent(db, 'way-in-again', at, { personId, courseId, causeId, detail: reason })
    return 'stays-out'
  }
  const eventId = appendEvent(db, 'enrolled', at, { personId, courseId, causeId })
  const moved = advance(programOfVersion(db, course.versionId), null, { kind: 'joined', at, ownAct }, factsFor(db, person))
  const row = { ...moved.enrolment, courseId, personId, visit: (visits[0]?.visit ?? 0) + 1, versionId: course.versionId, eventId }
  const begun: EnrolmentRow = { ...row, id: insertEnrolment(db, row), endedAt: null }
  save(db, begun, moved, at, eventId)
  // What someone has just asked for is decided here and now: it must not queue behind everybody else's due steps.
  if (ownAct && begun.dueAt === at && pauseOf(db, personId) === null) happen(db, begun, { kind: 'due', at }, eventId)
  return 'enrolled'
}

/** Lets a happening act on an open enrolment and saves what comes of it, in the caller's transaction. */
export function happen(db: Database, row: EnrolmentRow, happening: Happening, causeId: number, versionId = row.versionId): void {
  const person = findPerson(db, row.personId)!
  const moved = advance(programOfVersion(db, versionId), row, happening, factsFor(db, person))
  save(db, { ...row, versionId }, moved, happening.at, causeId)
}

function save(db: Database, row: EnrolmentRow, { enrolment, effects }: Advanced, at: Instant, causeId: number): void {
  const about = { personId: row.personId, courseId: row.courseId, causeId }
  for (const effect of effects) {
    switch (effect.kind) {
      case 'send': {
        const course = findCourse(db, row.courseId)!
        insertEmail(db, {
          kind: 'course', thingId: row.courseId, personId: row.personId, stepId: effect.step.id, visit: row.visit, purpose: 'first',
          messageId: effect.step.messageId!, enrolmentId: row.id, listId: course.listId!,
          askedFor: effect.firstAtOnce && row.ownAct ? 1 : 0, causeId: row.eventId, plannedAt: effect.plannedAt,
        })
        break
      }
      case 'skipped':
        appendEvent(db, 'skipped-step', at, { ...about, stepId: effect.step.id, ...effect.why === 'no-date' && { detail: 'no-date' } })
        break
      case 'finished':
        appendEvent(db, 'finished-course', at, { ...about, causeId: row.eventId })
        break
    }
  }
  // Whoever pauses stands still, whatever else happens to the course meanwhile.
  const standing = enrolment.dueAt !== null && pauseOf(db, row.personId) !== null ? { ...enrolment, dueAt: null } : enrolment
  saveEnrolment(db, row.id, row.versionId, standing, enrolment.status === 'open' ? null : at)
}

/** Ends someone's open enrolments (all, or those `which` picks) and withdraws what has not begun to leave. */
export function endEnrolments(db: Database, personId: number, at: Instant, causeId: number, reason: string, which: (row: EnrolmentRow) => boolean = () => true): number {
  const ending = openEnrolmentsOfPerson(db, personId).filter(which)
  for (const row of ending) {
    const eventId = appendEvent(db, 'left-course', at, { personId, courseId: row.courseId, causeId, detail: reason })
    happen(db, row, { kind: 'left', at }, eventId)
    withdrawEmails(db, personId, { enrolmentId: row.id }, at, eventId, 'left-course')
  }
  return ending.length
}

export function withdrawEmails(db: Database, personId: number, only: { listId?: number, enrolmentId?: number, confirmationId?: number }, at: Instant, causeId: number, reason: string): void {
  for (const outboxId of withdraw(db, personId, only, reason)) {
    appendEvent(db, 'withdrawn', at, { personId, outboxId, causeId, detail: reason })
  }
}

/** Plans someone's unsent steps anew, after their zone, a date of theirs or the workspace's clock has changed. */
export function replanFor(db: Database, personId: number, at: Instant, causeId: number): void {
  for (const row of openEnrolmentsOfPerson(db, personId)) {
    happen(db, row, { kind: 'replan', at, from: programOfVersion(db, row.versionId) }, causeId)
  }
}
