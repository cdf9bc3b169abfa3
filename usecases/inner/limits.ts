/** Whether an email may leave now, or is one too many for its reader. */
import { turnOf, type Rank, type Turn } from '#core/outbox/limits'
import { placesOf } from '#core/sequence/program'
import { DAY, type Instant, type ZoneName } from '#core/time/zone'
import type { Database } from '#data/connection'
import { programOfVersion } from '#data/courses'
import { findEnrolment } from '#data/enrolments'
import { isGivenByOffer, plannedFor, sendingLimits, sentSince } from '#data/limits'
import { appendEvent } from '#data/events'
import { findEmail, postpone, type OutboxRow } from '#data/outbox'
import { findPerson } from '#data/people'
import { workspaceOf } from '#data/workspace'
import { aboutEmail } from './aboutEmail'
import { happen } from './enrolments'
import { opensAt } from './hours'

/** Seven calendar days, however long they are. */
const WEEK = 8 * DAY

/** What was asked for, and what asks or tells for the house itself, is neither limited nor counted. A day is one of the reader's own zone, where it is known. */
export function turnOfEmail(db: Database, row: Pick<OutboxRow, 'id' | 'kind' | 'thingId' | 'askedFor' | 'personId'>, person: { zone: ZoneName | null }, at: Instant): Turn {
  if (row.askedFor === 1 || (row.kind !== 'course' && row.kind !== 'rule')) return { kind: 'goes' }
  const limits = sendingLimits(db)
  if (limits.gapMinutes === 0 && limits.aDay === null && limits.aWeek === null) return { kind: 'goes' }
  const capped = limits.aDay !== null || limits.aWeek !== null
  const planned = capped ? plannedFor(db, row.personId, row.id).filter(one => one.enrolmentId === null || isEmail(db, one.enrolmentId, one.stepId!)) : []
  return turnOf(limits, rankOf(db, row.kind, row.thingId), at, person.zone ?? workspaceOf(db).zone, {
    sentAt: sentSince(db, row.personId, at - WEEK, at),
    planned: planned.map(one => ({ at: one.at, rank: rankOf(db, one.kind, one.courseId), isBefore: one.outboxId !== null && one.outboxId < row.id })),
  })
}

/** As it is planned: what is too many moves with all that counts from it, before any of that is done. Within the transaction that queued it. */
export function moveIfTooMany(db: Database, outboxId: number, at: Instant): void {
  const email = findEmail(db, outboxId)!
  const person = findPerson(db, email.personId)
  const turn = person ? turnOfEmail(db, email, person, email.plannedAt) : null
  if (turn?.kind !== 'waits' || turn.why !== 'too-many-emails') return
  const until = opensAt(db, email, person!, turn.until)
  postpone(db, outboxId, until, turn.why)
  movePlan(db, email, until, at)
}

/** What counts from an email that is too many for its reader counts from its new moment. */
export function movePlan(db: Database, email: OutboxRow, until: Instant, at: Instant): void {
  const eventId = appendEvent(db, 'put-off', at, { ...aboutEmail(email), stepId: email.stepId, causeId: email.causeId, detail: 'too-many-emails' })
  const enrolment = email.enrolmentId === null ? undefined : findEnrolment(db, email.enrolmentId)
  if (enrolment?.status !== 'open' || email.purpose !== 'first') return
  happen(db, enrolment, { kind: 'put-off', at, stepId: email.stepId, from: email.plannedAt, to: until }, eventId)
}

const rankOf = (db: Database, kind: OutboxRow['kind'], courseId: number | null): Rank => kind === 'rule' || courseId === null ? 'rule' : isGivenByOffer(db, courseId) ? 'bought' : 'course'

function isEmail(db: Database, enrolmentId: number, stepId: string): boolean {
  const { versionId } = findEnrolment(db, enrolmentId)!
  return placesOf(programOfVersion(db, versionId)).get(stepId)?.step.kind === 'email'
}
