/** Somebody pauses: their mail waits. That their journeys stand still, and go on from where they stood, follows from the events. */
import type { EventAbout } from '#core/events'
import type { Instant } from '#core/time/zone'
import { bringMailForward, holdMail, pauseOf, putOffMail, setPause } from '#data/choices'
import type { Database } from '#data/connection'
import { appendEvent } from '#data/events'
import { findPerson } from '#data/people'
import { catchUp } from './reacting'

/** `about`: what its event says besides. */
export function beginPause(
  db: Database, personId: number, { at, untilAt }: { at: Instant, untilAt: Instant }, about: EventAbout = {},
): void {
  catchUp(db, personId, at)
  setPause(db, personId, { at, untilAt })
  putOffMail(db, personId, untilAt)
  appendEvent(db, 'paused', at, { ...about, personId, ownAct: true })
}

/** Does nothing if there is none. */
export function endPause(db: Database, personId: number, at: Instant, causeId: number | null, how?: 'own-choice'): void {
  const pause = pauseOf(db, personId)
  if (!pause) return
  setPause(db, personId, null)
  bringMailForward(db, personId, pause.untilAt, at)
  appendEvent(db, 'pause-ended', at, { personId, causeId, ownAct: how === 'own-choice', detail: how })
}

/** Mail that came back to somebody who rests or pauses waits as theirs does. */
export function holdWhatWaits(db: Database, personId: number): void {
  if (findPerson(db, personId)?.status === 'resting') holdMail(db, personId)
  const pause = pauseOf(db, personId)
  if (pause) putOffMail(db, personId, pause.untilAt)
}
