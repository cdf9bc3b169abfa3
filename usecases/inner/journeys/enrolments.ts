/** Coming into courses, going on in them, and leaving them. */
import { advance } from '#core/sequence/advance'
import type { Enrolment } from '#core/sequence/journey'
import { placesOf } from '#core/sequence/program'
import { isGone } from '#core/people/status'
import type { Instant, LocalDate } from '#core/time/zone'
import type { Person } from '#core/views/people'
import type { Database } from '#data/connection'
import { programOfVersion, runningOf, type Running } from '#data/courses'
import { insertEnrolment, openEnrolmentsOfPerson, visitsOf, type EnrolmentRow } from '#data/enrolments'
import { endScheduledEntry, holdEntry } from '#data/entries'
import { appendEvent } from '#data/events'
import { findPerson } from '#data/people'
import { latestReplanning } from '#data/replannings'
import { NotNow } from '../../problem'
import { cascadeOf, mayGoOn } from '../cascade'
import { catchUp, goOnAt } from '../facts/reacting'
import { withdrawEmails } from '../facts/withdraw'
import { factsFor } from '../journeyFacts'
import { act, happen, save } from './advancing'

export interface WayIn {
  courseId: number
  personId: number
  /** When they came in, by event time. */
  at: Instant
  causeId: number
  /** True if their own act brought them in: then the first at-once email is asked-for mail. */
  ownAct: boolean
  /** Of a course of dates: which return of their date they come in with. */
  occursOn?: LocalDate
  /** Where they stand who are let in by the date they would have joined on. */
  since?: Enrolment
}

/** Lets someone into a running course, or writes down why this way in did nothing. */
export function enrol(db: Database, way: WayIn): 'enrolled' | 'stays-out' {
  const { courseId, personId, at, causeId, ownAct } = way
  const course = runningOf(db, courseId)
  const person = findPerson(db, personId)
  if (!course || !person || course.versionId === null) throw new NotNow('This course is not running')
  const program = programOfVersion(db, course.versionId)
  const visits = visitsOf(db, courseId, personId)
  const visit = (visits[0]?.visit ?? 0) + 1
  const facts = factsFor(db, person, { courseId, visit, occursOn: way.occursOn ?? null, program })
  const reason = program.dates && !way.occursOn
    ? 'by-date'
    : whyOut(course, person, visits, way, program.entry === undefined || facts.holds(program.entry, at))
  if (reason) {
    appendEvent(db, 'way-in-again', at, { personId, courseId, causeId, detail: reason })
    return 'stays-out'
  }
  if (course.stoppedAt !== null) {
    // They are not forgotten: they come in once it goes on.
    holdEntry(db, { courseId, personId, dueAt: at, occursOn: way.occursOn ?? null, causeId })
    appendEvent(db, 'way-in-again', at, { personId, courseId, causeId, detail: 'course-stopped' })
    return 'stays-out'
  }
  const cascade = cascadeOf(db, causeId)
  if (!mayGoOn(db, cascade, causeId, personId, at, { courseId })) return 'stays-out'
  // Who may always come in begins anew by it.
  if (!way.occursOn) {
    endEnrolments(db, personId, at, causeId, 'began-anew', row => row.courseId === courseId)
    endScheduledEntry(db, courseId, personId)
  }
  const eventId = appendEvent(db, 'enrolled', at, { personId, courseId, causeId, ownAct })
  const moved = way.since === undefined
    ? advance(program, null, { kind: 'joined', at, ownAct }, facts)
    : { enrolment: way.since, effects: [] }
  const row = {
    ...moved.enrolment, courseId, personId, visit, versionId: course.versionId, eventId, occursOn: way.occursOn ?? null,
    replanId: latestReplanning(db), rootId: cascade.depth === 0 ? null : cascade.rootId,
  }
  const begun: EnrolmentRow = { ...row, id: insertEnrolment(db, row), endedAt: null, stillSince: null }
  save(db, begun, begun, moved, person, at, eventId)
  // What someone has just asked for is decided here and now: it must not queue behind everybody else's due steps.
  if (ownAct) goOnAt(db, begun.id, at, eventId)
  return 'enrolled'
}

/** Why a way in does nothing; null if it lets them in. Each return of a date is a journey of its own, and shuts no other out. */
function whyOut(
  { again }: Pick<Running, 'again'>, { status }: Pick<Person, 'status'>, visits: readonly EnrolmentRow[], { occursOn }: WayIn,
  fits: boolean,
): string | null {
  if (occursOn ? visits.some(visit => visit.occursOn === occursOn) : again !== 'always' && visits.some(visit => visit.status === 'open')) {
    return 'inside'
  }
  if (!occursOn && again === 'once' && visits.length > 0) return 'once'
  return isGone(status) ? status : fits ? null : 'entry'
}

/** Somebody goes on before another step of the course they are in. */
export function moveTo(
  db: Database, row: EnrolmentRow, toId: string, at: Instant, causeId: number | null, how: 'by-hand' | 'by-reaction',
): void {
  catchUp(db, row.personId, at)
  const eventId = appendEvent(db, 'moved-in-course', at, {
    personId: row.personId, courseId: row.courseId, stepId: toId, causeId, detail: how,
  })
  happen(db, row, { kind: 'moved', at, toId }, eventId)
  goOnAt(db, row.id, at, eventId)
}

/** Who has come to the end goes on before a step of the new end, in the version that runs. */
export function goOn(db: Database, row: EnrolmentRow, toId: string, at: Instant, causeId: number): void {
  const { versionId } = runningOf(db, row.courseId)!
  if (!placesOf(programOfVersion(db, versionId!)).has(toId)) return
  const eventId = appendEvent(db, 'went-on', at, { personId: row.personId, courseId: row.courseId, causeId, detail: 'new-end' })
  act(db, row, { kind: 'goes-on', at, toId }, eventId, versionId!)
}

/** Ends someone's open enrolments (all, or those `which` picks) and withdraws what has not begun to leave. */
export function endEnrolments(
  db: Database, personId: number, at: Instant, causeId: number, reason: string, which: (row: EnrolmentRow) => boolean = () => true,
): number {
  const ending = openEnrolmentsOfPerson(db, personId).filter(which)
  for (const row of ending) {
    const eventId = appendEvent(db, 'left-course', at, { personId, courseId: row.courseId, causeId, detail: reason })
    happen(db, row, { kind: 'left', at }, eventId)
    withdrawEmails(db, personId, { enrolmentId: row.id }, at, eventId, 'left-course')
  }
  return ending.length
}
