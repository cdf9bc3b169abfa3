/** Moving along a journey: every change of one goes through core's advance() and is written down here. */
import { advance, MOST_HOPS } from '#core/sequence/advance'
import type { Advanced, JourneyEvent } from '#core/sequence/journey'
import { occasionOf } from '#core/sending/occasion'
import type { Instant } from '#core/time/zone'
import type { Person } from '#core/views/people'
import { addCascadeSteps, cascadeSteps } from '#data/cascades'
import { restsOrPauses } from '#data/choices'
import type { Database } from '#data/connection'
import { isStoppedCourse, programOfVersion, runningOf, type Running } from '#data/courses'
import { findEnrolment, firstDueOfPerson, saveEnrolment, type EnrolmentRow } from '#data/enrolments'
import { appendEvent, writingAs } from '#data/events'
import { insertEmail } from '#data/outbox'
import { findPerson } from '#data/people'
import { replanningsAfter, setReplanned } from '#data/replannings'
import { moveIfTooMany } from '../facts/limits'
import { followAtOnce, settled } from '../facts/reacting'
import { factsFor } from '../journeyFacts'

/**
 * Lets a happening act on an enrolment and saves what comes of it. Whoever stands in an older version is moved to the one that runs first;
 * a
 * step that is not due any more by that is not done. Read anew: what was done just now may have ended this journey.
 */
export function happen(db: Database, { id }: Pick<EnrolmentRow, 'id'>, happening: JourneyEvent, causeId: number): void {
  happenTo(db, findEnrolment(db, id)!, happening, causeId)
}

/** The same to one that was read just now. Returns when what comes next is due; null if nothing is. */
export function happenTo(db: Database, row: EnrolmentRow, happening: JourneyEvent, causeId: number): Instant | null {
  const now = upToDate(db, row)
  if (now.status !== 'open') return null
  const { personId, courseId, versionId } = now
  // Of a course that was deleted, before they were taken out of it.
  if (happening.kind !== 'left' && runningOf(db, courseId)!.gone) {
    const { at } = happening
    const leftId = appendEvent(db, 'left-course', at, { personId, courseId, causeId, detail: 'deleted' })
    return act(db, now, { kind: 'left', at }, leftId, versionId)
  }
  if (happening.kind === 'due' && (now.dueAt === null || now.dueAt > happening.at)) return now.dueAt
  const told = happening.kind === 'replan' ? { ...happening, from: programOfVersion(db, versionId) } : happening
  return act(db, now, told, causeId, versionId)
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
    if (now.status === 'open') {
      act(db, { ...now, replanId: id }, { kind: 'replan', at, from: programOfVersion(db, now.versionId), why }, eventId, now.versionId)
    }
    now = findEnrolment(db, now.id)!
  }
  return stoppedOrResumed(db, now, course)
}

/** As the course was stopped, or went on: from that instant on. */
function stoppedOrResumed(
  db: Database, row: EnrolmentRow, { stoppedAt, stopChangedAt, stopEventId }: Pick<Running, 'stoppedAt' | 'stopChangedAt' | 'stopEventId'>,
): EnrolmentRow {
  if (stopChangedAt === null || row.status !== 'open' || (stoppedAt !== null) === (row.pausedAt !== null)) return row
  if (stoppedAt === null && (row.stillSince !== null || restsOrPauses(db, row.personId))) return row
  act(db, row, { kind: stoppedAt !== null ? 'paused' : 'resumed', at: stopChangedAt }, stopEventId!, row.versionId)
  return findEnrolment(db, row.id)!
}

/** In this version of the course, whatever its state. Returns when what comes next is due. */
export function act(db: Database, row: EnrolmentRow, happening: JourneyEvent, causeId: number, versionId: number): Instant | null {
  const person = findPerson(db, row.personId)!
  const program = programOfVersion(db, versionId)
  // All that comes of one event at one moment is counted together.
  const hops = row.rootId === null ? row.hops : Math.max(row.hops, cascadeSteps(db, row.rootId, row.personId))
  const moved = advance(program, { ...row, hops }, happening, factsFor(db, person, { ...row, program }))
  const isCounted = row.rootId !== null && moved.enrolment.previousAt === row.previousAt
  if (isCounted && moved.enrolment.hops > hops) addCascadeSteps(db, row.rootId!, row.personId, moved.enrolment.hops - hops)
  return save(db, { ...row, versionId, rootId: isCounted ? row.rootId : null }, row, moved, person, happening.at, causeId)
}

/** Does what was due for someone before that instant, each step at its own time, with all that follows from it. */
export function doDueBefore(db: Database, personId: number, before: Instant): void {
  writingAs(db, { ruleId: null, quiet: null }, () => {
    // Whatever takes more steps than that is stopped by itself, or is done in its turn.
    for (let n = 0; n < MOST_HOPS; n++) {
      const row = firstDueOfPerson(db, personId, before)
      if (!row) return
      settled(db, () => happen(db, row, { kind: 'due', at: row.dueAt! }, row.eventId))
    }
  })
}

/** Does the next step of an enrolment if it is due at that very instant; false if it is not. */
export function doNextAt(db: Database, enrolmentId: number, at: Instant, causeId: number): boolean {
  const row = findEnrolment(db, enrolmentId)
  if (row?.status !== 'open' || row.dueAt !== at) return false
  happenTo(db, row, { kind: 'due', at }, causeId)
  return true
}

/**
 * Saves what came of it, and does of its effects what is a matter of the journey: what a step does to the person follows from its event.
 * `before`: as it was saved last. Returns when what comes next is due.
 */
export function save(
  db: Database, row: EnrolmentRow, before: EnrolmentRow, { enrolment, effects }: Advanced, person: Pick<Person, 'zone'>, at: Instant,
  causeId: number,
): Instant | null {
  // Whoever pauses, rests, is let stand still or stands in a stopped course stays there, whatever else happens to the course meanwhile.
  const standsStill = enrolment.status === 'open'
    && (row.stillSince !== null || isStoppedCourse(db, row.courseId) || restsOrPauses(db, row.personId))
  const standing = standsStill ? { ...enrolment, pausedAt: enrolment.pausedAt ?? at, dueAt: null } : enrolment
  // Saved before anything is done: what a step does may end this very journey.
  const { versionId, rootId } = row
  saveEnrolment(db, { ...row, ...standing, versionId, rootId, endedAt: enrolment.status === 'open' ? null : at }, before)
  const about = { personId: row.personId, courseId: row.courseId, causeId }
  for (const effect of effects) {
    switch (effect.kind) {
      case 'send': {
        const email = {
          kind: 'course' as const, ownerId: row.courseId, personId: row.personId, itemId: effect.step.id, occasion: occasionOf(row.visit),
          messageId: effect.step.messageId!, enrolmentId: row.id, listId: runningOf(db, row.courseId)!.listId!,
          askedFor: effect.firstAtOnce && row.ownAct ? 1 as const : 0 as const, causeId: row.eventId, plannedAt: effect.plannedAt,
        }
        moveIfTooMany(db, { ...email, id: insertEmail(db, email) }, person, at)
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
      case 'do':
        appendEvent(db, 'did-step', effect.at, { ...about, causeId: row.eventId, stepId: effect.step.id })
        // What a step does is done before whatever comes after it.
        followAtOnce(db)
        break
      case 'stopped':
        appendEvent(db, 'stopped-course', effect.at, { ...about, stepId: effect.step.id })
        break
      case 'finished':
        appendEvent(db, 'finished-course', at, { ...about, causeId: row.eventId })
        break
    }
  }
  return standing.dueAt
}
