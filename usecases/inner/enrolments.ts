/** Moving enrolments: every change of one goes through core's advance() and is written down here. */
import { advance, MOST_HOPS } from '#core/sequence/advance'
import type { Advanced, Awaited, Enrolment, Facts, JourneyEvent } from '#core/sequence/journey'
import { holds, type PersonFacts } from '#core/audience/meaning'
import type { Moment } from '#core/audience/condition'
import { reevaluateAt } from '#core/audience/reevaluate'
import type { Trigger } from '#core/rules/rule'
import { matches } from '#core/rules/waking'
import { dateFieldsOf, hasComeTo, placesOf, type Program } from '#core/sequence/program'
import { isGone } from '#core/people/status'
import type { FieldValue } from '#core/people/field'
import type { DateOf } from '#core/time/when'
import { isDate, type Instant, type LocalDate } from '#core/time/zone'
import { addCascadeSteps, cascadeSteps } from '#data/cascades'
import { restsOrPauses } from '#data/choices'
import { coursesChange, isStoppedCourse, programOfVersion, runningCourses, runningOf, type Running } from '#data/courses'
import type { EnrolmentRow } from '#data/enrolments'
import { findEnrolment, firstDueOfPerson, holdsOfPerson, insertEnrolment, openEnrolmentsOfPerson, saveEnrolment, visitsOf } from '#data/enrolments'
import { endScheduledEntry, holdEntry } from '#data/entries'
import { appendEvent, eventsOfKindSince, type RawEvent } from '#data/events'
import { fieldOfPerson } from '#data/fields'
import { emailsOfOccasion, insertEmail, withdraw } from '#data/outbox'
import type { Person } from '#core/views/people'
import { occasionOf } from '#core/sending/occasion'
import { findPerson } from '#data/people'
import { standsFor } from '#data/markEnds'
import { membership } from '#data/marks'
import { latestReplanning, replanningsAfter, setReplanned } from '#data/replannings'
import { sendingHours, workspaceOf } from '#data/workspace'
import { lazyFacts } from '#data/audience'
import { memoize, type Database } from '#data/connection'
import { doAction } from './actions'
import { cascadeOf, mayGoOn } from './cascade'
import { replanEntries } from './scheduledEntries'
import { moveIfTooMany } from './limits'
import { joinList } from './marks'
import { momentOf } from './moment'
import { ruleEventOf } from './rules'
import { reactSoFar } from './transaction'
import { NotNow } from '../problem'

/** What a journey goes by: of the person as they are now, and of what has happened to them. */
export function factsFor(db: Database, person: Pick<Person, 'id' | 'zone'>, journey: Pick<EnrolmentRow, 'courseId' | 'visit' | 'occursOn'> & { program: Program, /** What began it; left out before it has. */ eventId?: number }): Facts {
  const about = <Answer>(at: Instant, ask: (facts: PersonFacts, moment: Moment) => Answer, unknown: Answer): Answer => {
    const facts = lazyFacts(db, person.id)
    return facts ? ask(facts, momentOf(db, at)) : unknown
  }
  return {
    ...workspaceFacts(db), personZone: person.zone,
    // In a course of dates its date is the return of it that this journey is about.
    dateOf: fieldId => journey.occursOn !== null && journey.program.dates?.fieldId === fieldId ? journey.occursOn : dateIn(fieldOfPerson(db, fieldId, person.id)),
    holds: (who, at) => about(at, (facts, moment) => holds(who, facts, moment), false),
    reevaluateAt: (who, at) => about(at, (facts, moment) => reevaluateAt(who, facts, moment), null),
    awaited: (until, since) => awaited(db, person.id, journey, until.when, since),
  }
}

/** What is known of what a hold waits for. Of an email of this course it looks back to its sending; one that was not sent cannot be opened. What brought them into the course happened before it. */
function awaited(db: Database, personId: number, { courseId, visit, eventId = 0 }: Pick<EnrolmentRow, 'courseId' | 'visit'> & { eventId?: number }, when: Trigger, since: Instant): Awaited {
  let from = since
  if (when.stepId) {
    const email = emailsOfOccasion(db, { kind: 'course', ownerId: courseId, itemId: when.stepId, personId, occasionId: visit }).find(({ isAgain }) => !isAgain)
    if (!email || email.status === 'held back' || email.status === 'withdrawn' || (email.status === 'failed' && email.goAt === null)) return { kind: 'cannot' }
    from = Math.min(since, email.handedOverAt ?? email.plannedAt)
  }
  const event = eventsOfKindSince(db, personId, when.kind, from).find(one => one.id > eventId && (!when.stepId || one.courseId === courseId) && matches(when, ruleEventOf(db, one)))
  return event ? { kind: 'happened', at: event.at } : { kind: 'open' }
}

/** What counts for everybody. */
export const workspaceFacts = (db: Database): Pick<Facts, 'workspaceZone' | 'hours'> => ({ workspaceZone: workspaceOf(db).zone, hours: sendingHours(db) })

const dateIn = (value: FieldValue | undefined | null): LocalDate | null => typeof value === 'string' && isDate(value) ? value : null

/** What date fields say for people who stand alike: in a course of dates its date is the return that the journey is about. */
export const dateOfStanding = ({ dateOf, occursOn }: { dateOf: DateOf, occursOn: LocalDate | null }, { dates }: Pick<Program, 'dates'>): DateOf => fieldId => occursOn !== null && dates?.fieldId === fieldId ? occursOn : dateOf(fieldId)

/** The date fields by which running courses go. */
export const dateFieldsRunning = (db: Database): number[] => [...new Set(runningCourses(db).flatMap(({ versionId }) => dateFieldsOf(programOfVersion(db, versionId))))]

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
  const reason = program.dates && !way.occursOn ? 'by-date' : whyOut(course, person, visits, way, program.entry === undefined || facts.holds(program.entry, at))
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
  const eventId = appendEvent(db, 'enrolled', at, { personId, courseId, causeId })
  const moved = way.since === undefined ? advance(program, null, { kind: 'joined', at, ownAct }, facts) : { enrolment: way.since, effects: [] }
  const row = {
    ...moved.enrolment, courseId, personId, visit, versionId: course.versionId, eventId, occursOn: way.occursOn ?? null,
    replanId: latestReplanning(db), rootId: cascade.depth === 0 ? null : cascade.rootId,
  }
  const begun: EnrolmentRow = { ...row, id: insertEnrolment(db, row), endedAt: null, stillSince: null }
  save(db, begun, moved, at, eventId)
  const listId = course.joinsList && course.listId !== null ? standsFor(db, 'lists', course.listId) : null
  if (listId !== null && membership(db, listId, personId) === 'never-joined') joinList(db, personId, listId, {
    at, causeId: eventId, ownAct,
  })
  // What someone has just asked for is decided here and now: it must not queue behind everybody else's due steps.
  if (ownAct) doWhatIsDue(db, begun.id, at, eventId)
  return 'enrolled'
}

/** Why a way in does nothing; null if it lets them in. Each return of a date is a journey of its own, and shuts no other out. */
function whyOut({ again }: Pick<Running, 'again'>, { status }: Pick<Person, 'status'>, visits: readonly EnrolmentRow[], { occursOn }: WayIn, fits: boolean): string | null {
  if (occursOn ? visits.some(visit => visit.occursOn === occursOn) : again !== 'always' && visits.some(visit => visit.status === 'open')) return 'inside'
  if (!occursOn && again === 'once' && visits.length > 0) return 'once'
  return isGone(status) ? status : fits ? null : 'entry'
}

/** Lets a happening act on an enrolment and saves what comes of it, in the caller's transaction. Whoever stands in an older version is moved to the one that runs first; a step that is not due any more by that is not done. */
export function happen(db: Database, { id }: Pick<EnrolmentRow, 'id'>, happening: JourneyEvent, causeId: number): void {
  // Read anew: what was done to somebody else just now may have ended this journey.
  const now = upToDate(db, findEnrolment(db, id)!)
  if (now.status !== 'open') return
  // Of a course that was deleted, before they were taken out of it.
  if (happening.kind !== 'left' && runningOf(db, now.courseId)!.gone) {
    const { at } = happening
    act(db, now, { kind: 'left', at }, appendEvent(db, 'left-course', at, { personId: now.personId, courseId: now.courseId, causeId, detail: 'deleted' }), now.versionId)
    return
  }
  if (happening.kind === 'due' && (now.dueAt === null || now.dueAt > happening.at)) return
  act(db, now, happening.kind === 'replan' ? { ...happening, from: programOfVersion(db, now.versionId) } : happening, causeId, now.versionId)
}

/**
 * The same in the version that runs, moved there if need be, as of its publishing; planned by the hours and the zone that count now; and
 * standing still, or going on, as its course does.
 */
export function upToDate(db: Database, row: EnrolmentRow): EnrolmentRow {
  const { versionId, movingAt, movingEventId, ...course } = runningOf(db, row.courseId)!
  let now = row
  if (movingAt !== null && versionId !== null && row.versionId < versionId) {
    const from = programOfVersion(db, row.versionId)
    if (row.status === 'open') act(db, row, { kind: 'replan', at: movingAt, from, why: 'published' }, movingEventId!, versionId)
    now = { ...findEnrolment(db, row.id)!, versionId }
  }
  for (const { id, why, at, eventId } of replanningsAfter(db, now.replanId)) {
    setReplanned(db, now.id, id)
    if (now.status === 'open') act(db, { ...now, replanId: id }, { kind: 'replan', at, from: programOfVersion(db, now.versionId), why }, eventId, now.versionId)
    now = findEnrolment(db, now.id)!
  }
  return stoppedOrResumed(db, now, course)
}

/** As the course was stopped, or went on: from that instant on. */
function stoppedOrResumed(db: Database, row: EnrolmentRow, { stoppedAt, stopChangedAt, stopEventId }: Pick<Running, 'stoppedAt' | 'stopChangedAt' | 'stopEventId'>): EnrolmentRow {
  if (stopChangedAt === null || row.status !== 'open' || (stoppedAt !== null) === (row.pausedAt !== null)) return row
  if (stoppedAt === null && (row.stillSince !== null || restsOrPauses(db, row.personId))) return row
  act(db, row, { kind: stoppedAt !== null ? 'paused' : 'resumed', at: stopChangedAt }, stopEventId!, row.versionId)
  return findEnrolment(db, row.id)!
}

function act(db: Database, row: EnrolmentRow, happening: JourneyEvent, causeId: number, versionId: number): void {
  const person = findPerson(db, row.personId)!
  const program = programOfVersion(db, versionId)
  // All that comes of one event at one moment is counted together.
  const hops = row.rootId === null ? row.hops : Math.max(row.hops, cascadeSteps(db, row.rootId, row.personId))
  const moved = advance(program, { ...row, hops }, happening, factsFor(db, person, { ...row, program }))
  const isCounted = row.rootId !== null && moved.enrolment.previousAt === row.previousAt
  if (isCounted && moved.enrolment.hops > hops) addCascadeSteps(db, row.rootId!, row.personId, moved.enrolment.hops - hops)
  save(db, { ...row, versionId, rootId: isCounted ? row.rootId : null }, moved, happening.at, causeId)
}

/**
 * Does what was due for someone before that instant, each step at its own
 * time, before anything about them is changed: what a condition asks for is
 * then read as it was, however late the machine is.
 */
export function catchUp(db: Database, personId: number, before: Instant): void {
  // Whatever takes more steps than that is stopped by itself, or is done in its turn.
  for (let n = 0; n < MOST_HOPS; n++) {
    const row = firstDueOfPerson(db, personId, before)
    if (!row) return
    happen(db, row, { kind: 'due', at: row.dueAt! }, row.eventId)
    reactSoFar(db)
  }
}

/** Does one step after the other for as long as the next is due at that very instant: forks and actions take no time. */
export function doWhatIsDue(db: Database, enrolmentId: number, at: Instant, causeId: number): void {
  for (let row = findEnrolment(db, enrolmentId); row?.dueAt === at && row.status === 'open'; row = findEnrolment(db, enrolmentId)) happen(db, row, { kind: 'due', at }, causeId)
}

/** Somebody goes on before another step of the course they are in. */
export function moveTo(db: Database, row: EnrolmentRow, toId: string, at: Instant, causeId: number | null, how: 'by-hand' | 'by-reaction'): void {
  const eventId = appendEvent(db, 'moved-in-course', at, { personId: row.personId, courseId: row.courseId, stepId: toId, causeId, detail: how })
  catchUp(db, row.personId, at)
  happen(db, row, { kind: 'moved', at, toId }, eventId)
  doWhatIsDue(db, row.id, at, eventId)
}

/** Who has come to the end goes on before a step of the new end, in the version that runs. */
export function goOn(db: Database, row: EnrolmentRow, toId: string, at: Instant, causeId: number): void {
  const { versionId } = runningOf(db, row.courseId)!
  if (!placesOf(programOfVersion(db, versionId!)).has(toId)) return
  const eventId = appendEvent(db, 'went-on', at, { personId: row.personId, courseId: row.courseId, causeId, detail: 'new-end' })
  act(db, row, { kind: 'goes-on', at, toId }, eventId, versionId!)
}

/** What just happened to someone takes them out of every course that has it for a way out. */
export function checkExits(db: Database, event: RawEvent): void {
  const watching = waysOutBy(db).get(event.kind)
  if (!watching) return
  const happening = ruleEventOf(db, event)
  for (const row of openEnrolmentsOfPerson(db, event.personId)) {
    if (!watching.has(row.courseId) || row.eventId > event.id) continue
    const program = programOfVersion(db, row.versionId)
    const out = program.waysOut?.some(({ when, fromStepId }) => matches(when, happening) && (fromStepId === null || hasComeTo(program, row.stepId, fromStepId)))
    if (out) endEnrolments(db, event.personId, event.at, event.id, 'way-out', one => one.id === row.id)
  }
}

/** The courses that run and watch for each kind of event. */
function waysOutBy(db: Database): Map<string, Set<number>> {
  return memoize(db, 'ways out', coursesChange(db), () => {
    const watching = new Map<string, Set<number>>()
    for (const { id, versionId } of runningCourses(db)) {
      for (const { when } of programOfVersion(db, versionId).waysOut ?? []) watching.set(when.kind, (watching.get(when.kind) ?? new Set()).add(id))
    }
    return watching
  })
}

/** Something happened to someone: whoever waits in a hold for it goes on. */
export function checkHolds(db: Database, personId: number, { id, at }: { id: number, at: Instant }): void {
  catchUp(db, personId, at)
  for (const row of holdsOfPerson(db, personId)) {
    happen(db, row, { kind: 'look', at }, id)
    doWhatIsDue(db, row.id, at, id)
  }
}

function save(db: Database, row: EnrolmentRow, { enrolment, effects }: Advanced, at: Instant, causeId: number): void {
  // Whoever pauses, rests, is let stand still or stands in a stopped course stays there, whatever else happens to the course meanwhile.
  const standsStill = enrolment.status === 'open' && (row.stillSince !== null || isStoppedCourse(db, row.courseId) || restsOrPauses(db, row.personId))
  const standing = standsStill ? { ...enrolment, pausedAt: enrolment.pausedAt ?? at, dueAt: null } : enrolment
  // Saved before anything is done: what a step does may end this very journey.
  saveEnrolment(db, row.id, row.versionId, standing, { endedAt: enrolment.status === 'open' ? null : at, rootId: row.rootId })
  const about = { personId: row.personId, courseId: row.courseId, causeId }
  for (const effect of effects) {
    switch (effect.kind) {
      case 'send': {
        const outboxId = insertEmail(db, {
          kind: 'course', ownerId: row.courseId, personId: row.personId, itemId: effect.step.id, occasion: occasionOf(row.visit),
          messageId: effect.step.messageId!, enrolmentId: row.id, listId: runningOf(db, row.courseId)!.listId!,
          askedFor: effect.firstAtOnce && row.ownAct ? 1 : 0, causeId: row.eventId, plannedAt: effect.plannedAt,
        })
        moveIfTooMany(db, outboxId, at)
        break
      }
      case 'skipped':
        appendEvent(db, 'skipped-step', at, { ...about, stepId: effect.step.id, ...effect.why === 'no-date' && { detail: 'no-date' } })
        break
      case 'holds':
        appendEvent(db, 'began-hold', effect.at, { ...about, stepId: effect.step.id })
        break
      case 'way':
        appendEvent(db, 'took-way', effect.at, { ...about, stepId: effect.step.id, detail: effect.wayId })
        break
      case 'do': {
        const eventId = appendEvent(db, 'did-step', effect.at, { ...about, causeId: row.eventId, stepId: effect.step.id })
        for (const action of effect.then) doAction(db, row.personId, action, { at: effect.at, causeId: eventId, ruleId: null, courseId: row.courseId })
        break
      }
      case 'stopped':
        appendEvent(db, 'stopped-course', effect.at, { ...about, stepId: effect.step.id })
        break
      case 'finished': {
        const eventId = appendEvent(db, 'finished-course', at, { ...about, causeId: row.eventId })
        for (const action of programOfVersion(db, row.versionId).onFinish ?? []) doAction(db, row.personId, action, { at, causeId: eventId, ruleId: null, courseId: row.courseId })
        break
      }
    }
  }
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

export function withdrawEmails(
  db: Database, personId: number, only: Parameters<typeof withdraw>[2], at: Instant, causeId: number, reason: string,
): void {
  for (const outboxId of withdraw(db, personId, only, reason)) {
    appendEvent(db, 'withdrawn', at, { personId, outboxId, causeId, detail: reason })
  }
}

/** Plans someone's unsent steps anew, after their zone or a date of theirs has changed. */
export function replanFor(db: Database, personId: number, at: Instant, causeId: number, why: 'zone' | 'date'): void {
  for (const row of openEnrolmentsOfPerson(db, personId)) {
    happen(db, row, { kind: 'replan', at, from: programOfVersion(db, row.versionId), why }, causeId)
  }
  replanEntries(db, personId, at, causeId)
}
