/** Whether an email may leave now, or is one too many for its reader. */
import { turnOf, type Rank, type Turn } from '#core/outbox/limits'
import { placesOf } from '#core/sequence/program'
import { DAY, type Instant, type ZoneName } from '#core/time/zone'
import type { Database } from '#data/connection'
import { programOfVersion } from '#data/courses'
import { findEnrolment } from '#data/enrolments'
import { isGivenByOffer, plannedFor, sendingLimits, sentSince } from '#data/limits'
import type { OutboxRow } from '#data/outbox'
import { workspaceOf } from '#data/workspace'

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
    planned: planned.map(one => ({ at: one.at, rank: rankOf(db, one.kind, one.courseId) })),
  })
}

const rankOf = (db: Database, kind: OutboxRow['kind'], courseId: number | null): Rank => kind === 'rule' || courseId === null ? 'rule' : isGivenByOffer(db, courseId) ? 'bought' : 'course'

function isEmail(db: Database, enrolmentId: number, stepId: string): boolean {
  const { versionId } = findEnrolment(db, enrolmentId)!
  return placesOf(programOfVersion(db, versionId)).get(stepId)?.step.kind === 'email'
}
