/** Somebody stands still, by a pause of their own or because they rest, and goes on from where they stood. In the caller's transaction. */
import type { Instant } from '#core/time/zone'
import { bringMailForward, holdMail, pauseOf, putOffMail, releaseMail, restsOrPauses, setPause } from '#data/choices'
import type { Database } from '#data/connection'
import { isStoppedCourse } from '#data/courses'
import { openEnrolmentsOfPerson } from '#data/enrolments'
import { appendEvent } from '#data/events'
import { findPerson } from '#data/people'
import { catchUp, doWhatIsDue, happen } from './enrolments'

/** Their journeys stand still, or go on, as they now do; what the owner lets stand still, alone or with the whole course, stays so. */
export function standOrGo(db: Database, personId: number, at: Instant, causeId: number): void {
  const rests = restsOrPauses(db, personId)
  for (const row of openEnrolmentsOfPerson(db, personId)) {
    const stands = rests || row.stillSince !== null || isStoppedCourse(db, row.courseId)
    if (stands === (row.pausedAt !== null)) continue
    happen(db, row, { kind: stands ? 'paused' : 'resumed', at }, causeId)
    if (!stands) doWhatIsDue(db, row.id, at, causeId)
  }
}

export function beginPause(db: Database, personId: number, { at, untilAt, causeId }: { at: Instant, untilAt: Instant, causeId: number }): void {
  catchUp(db, personId, at)
  setPause(db, personId, { at, untilAt })
  putOffMail(db, personId, untilAt)
  standOrGo(db, personId, at, causeId)
}

/** Does nothing if there is none. */
export function endPause(db: Database, personId: number, at: Instant, causeId: number | null, how?: 'own-choice'): void {
  const pause = pauseOf(db, personId)
  if (!pause) return
  const eventId = appendEvent(db, 'pause-ended', at, { personId, causeId, detail: how })
  setPause(db, personId, null)
  bringMailForward(db, personId, pause.untilAt, at)
  standOrGo(db, personId, at, eventId)
}

/** Mail that came back to somebody who rests or pauses waits as theirs does. */
export function holdWhatWaits(db: Database, personId: number): void {
  if (findPerson(db, personId)?.status === 'resting') holdMail(db, personId)
  const pause = pauseOf(db, personId)
  if (pause) putOffMail(db, personId, pause.untilAt)
}

/** Nothing is held back and passed over: it waits until they are woken. */
export function beginRest(db: Database, personId: number, at: Instant, causeId: number): void {
  holdMail(db, personId)
  standOrGo(db, personId, at, causeId)
}

export function endRest(db: Database, personId: number, at: Instant, causeId: number): void {
  releaseMail(db, personId, at)
  standOrGo(db, personId, at, causeId)
}
