/** Until when an email waits for the sending hours. */
import { kindOf } from '#core/sending/kinds'
import { hoursOf, zoneOf } from '#core/sequence/standing'
import { placesOf } from '#core/sequence/program'
import { nextOpen } from '#core/time/hours'
import type { Instant, ZoneName } from '#core/time/zone'
import type { Database } from '#data/connection'
import { programOfVersion } from '#data/courses'
import { findEnrolment } from '#data/enrolments'
import type { OutboxRow } from '#data/outbox'
import { goesByReaders } from '#data/sends'
import { workspaceFacts } from './workspaceFacts'

/**
 * The first instant from `at` on at which this email may leave. What was asked for, and what asks or tells for the workspace itself, waits
 * for no hours.
 */
export function opensAt(
  db: Database, row: Pick<OutboxRow, 'sendId' | 'kind' | 'askedFor' | 'enrolmentId' | 'itemId'>, person: { zone: ZoneName | null },
  at: Instant,
): Instant {
  if (row.askedFor === 1 || !kindOf(row.kind).keepsHours) return at
  const facts = workspaceFacts(db)
  const enrolment = row.enrolmentId === null ? undefined : findEnrolment(db, row.enrolmentId)
  // What comes at each reader's own clock time keeps to their own clock.
  if (!enrolment) return nextOpen(at, facts.hours, goesByReaders(db, row.sendId) ? person.zone ?? facts.workspaceZone : facts.workspaceZone)
  const program = programOfVersion(db, enrolment.versionId)
  const step = placesOf(program).get(row.itemId)?.step
  if (step?.kind === 'email' && step.ignoresHours) return at
  return nextOpen(at, hoursOf(program, facts), step ? zoneOf(step, { ...facts, personZone: person.zone }) : facts.workspaceZone)
}
