/** A person's pause: everything stands still, and goes on from where it stood. In the caller's transaction. */
import { placesOf } from '#core/sequence/program'
import type { Instant } from '#core/time/zone'
import { bringMailForward, pauseOf, putOffMail, setPause } from '#data/choices'
import type { Database } from '#data/connection'
import { programOfVersion } from '#data/courses'
import { openEnrolmentsOfPerson } from '#data/enrolments'
import { appendEvent } from '#data/events'
import { happen } from './enrolments'

export function beginPause(db: Database, personId: number, { at, untilAt, causeId }: { at: Instant, untilAt: Instant, causeId: number }): void {
  for (const row of openEnrolmentsOfPerson(db, personId)) happen(db, row, { kind: 'paused', at }, causeId)
  setPause(db, personId, { at, untilAt })
  putOffMail(db, personId, untilAt)
}

/** Does nothing if there is none. */
export function endPause(db: Database, personId: number, at: Instant, causeId: number | null, how?: 'own-choice'): void {
  const pause = pauseOf(db, personId)
  if (!pause) return
  const eventId = appendEvent(db, 'pause-ended', at, { personId, causeId, detail: how })
  setPause(db, personId, null)
  bringMailForward(db, personId, pause.untilAt, at)
  for (const row of openEnrolmentsOfPerson(db, personId)) {
    // Whoever stands before an email that is still empty, or before a step that is paused, goes on standing there.
    const step = row.stepId === null ? undefined : placesOf(programOfVersion(db, row.versionId)).get(row.stepId)?.step
    if (!step?.paused && !(step?.kind === 'email' && step.messageId === null)) happen(db, row, { kind: 'resumed', at, since: pause.at }, eventId)
  }
}
