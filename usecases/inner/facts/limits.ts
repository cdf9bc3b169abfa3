/** Whether an email may leave now, or is one too many for its reader. */
import { quotaVerdict, type Rank, type QuotaVerdict } from '#core/sending/quota'
import { kindOf } from '#core/sending/kinds'
import { placesOf } from '#core/sequence/program'
import { DAY, type Instant, type ZoneName } from '#core/time/zone'
import type { Database } from '#data/connection'
import { programOfVersion } from '#data/courses'
import { findEnrolment } from '#data/enrolments'
import { isGivenByOffer, plannedFor, sendingLimits, sentSince } from '#data/limits'
import { appendEvent } from '#data/events'
import { findEmail, postpone, type NewEmail, type OutboxRow } from '#data/outbox'
import { findSendId } from '#data/sends'
import { workspaceOf } from '#data/workspace'
import { aboutAttempt } from '../aboutEmail'
import { opensAt } from '../hours'

/** Seven calendar days, however long they are. */
const WEEK = 8 * DAY

/**
 * What was asked for, and what asks or tells for the workspace itself, is neither limited nor counted. A day is one of the reader's own
 * zone, where it is known.
 */
export function quotaVerdictOf(
  db: Database, row: Pick<OutboxRow, 'id' | 'kind' | 'ownerId' | 'askedFor' | 'personId'>, person: { zone: ZoneName | null }, at: Instant,
): QuotaVerdict {
  const limits = sendingLimits(db)
  if (limits.gapMinutes === 0 && limits.aDay === null && limits.aWeek === null) return { kind: 'goes' }
  const rank = rankOf(db, row)
  if (row.askedFor === 1 || rank === null) return { kind: 'goes' }
  const capped = limits.aDay !== null || limits.aWeek !== null
  const planned = capped
    ? plannedFor(db, row.personId, row.id).filter(one => one.enrolmentId === null || isEmail(db, one.enrolmentId, one.stepId!))
    : []
  return quotaVerdict(limits, rank, at, person.zone ?? workspaceOf(db).zone, {
    sentAt: sentSince(db, row.personId, at - WEEK, at),
    planned: planned.map(one => ({ at: one.at, rank: rankOf(db, one)!, isBefore: one.outboxId !== null && one.outboxId < row.id })),
  })
}

/** As it is planned: what is too many is put off. Within the transaction that queued it. */
export function moveIfTooMany(
  db: Database, email: NewEmail & Pick<OutboxRow, 'id' | 'enrolmentId'>, person: { zone: ZoneName | null }, at: Instant,
): void {
  const verdict = quotaVerdictOf(db, email, person, email.plannedAt)
  if (verdict.kind !== 'waits' || verdict.why !== 'too-many-emails') return
  postpone(db, email.id, opensAt(db, { ...email, sendId: findSendId(db, email)! }, person, verdict.until), verdict.why)
  tellPutOff(db, findEmail(db, email.id)!, at)
}

/** It is one too many for its reader, and waits. That what counts from it counts from its new moment follows from this. */
export function tellPutOff(db: Database, email: OutboxRow, at: Instant): void {
  appendEvent(db, 'put-off', at, { ...aboutAttempt(email), detail: 'too-many-emails' })
}

/** What an offer gives is part of what was bought. */
function rankOf(db: Database, { kind, ownerId }: Pick<OutboxRow, 'kind' | 'ownerId'>): Rank | null {
  const { rank, owner } = kindOf(kind)
  return rank !== null && owner === 'course' && isGivenByOffer(db, ownerId) ? 'bought' : rank
}

function isEmail(db: Database, enrolmentId: number, stepId: string): boolean {
  const { versionId } = findEnrolment(db, enrolmentId)!
  return placesOf(programOfVersion(db, versionId)).get(stepId)?.step.kind === 'email'
}
