/** Taking back what one has just chosen: an accidental click costs nothing. */
import { isGone } from '#core/people/status'
import { DAY, type Instant } from '#core/time/zone'
import { emailsNotBegun, insertUndo, latestUndo, markUndone, pauseOf, queueWithdrawn, reopenEnrolment, stoodThere } from '#data/choices'
import type { Database } from '#data/connection'
import { findEnrolment, openEnrolmentsOfPerson } from '#data/enrolments'
import { appendEvent } from '#data/events'
import { interestsOfPerson, listsOfPerson } from '#data/marks'
import { findEmail } from '#data/outbox'
import { findPerson } from '#data/people'
import type { House } from '../house'
import { write } from '../inner/transaction'
import { endPause, standOrGo } from '../inner/pauses'
import { changeStatus, giveTag, joinList, leaveList, takeTag } from '../inner/marks'
import { NotNow } from '../problem'

/** For so long the last change can be taken back. */
export const TAKE_BACK_WITHIN = DAY

/** Notes how they stand, before something changes, in the caller's transaction. */
export function keepUndo(db: Database, personId: number, outboxId: number, at: Instant): void {
  insertUndo(db, {
    personId, outboxId, at, before: {
      status: findPerson(db, personId)!.status,
      joined: listsOfPerson(db, personId).filter(list => list.leftAt === null).map(({ id }) => id),
      interests: interestsOfPerson(db, personId).filter(tag => tag.has).map(({ id }) => id),
      paused: pauseOf(db, personId) !== null,
      enrolments: openEnrolmentsOfPerson(db, personId).map(stoodThere),
      emails: emailsNotBegun(db, personId),
    },
  })
}

/** Whether there is something to take back now. */
export function canTakeBack(db: Database, personId: number, now: Instant): boolean {
  const undo = latestUndo(db, personId)
  return undo !== undefined && undo.doneAt === null && now - undo.at <= TAKE_BACK_WITHIN && undo.before.status !== 'pending'
}

/**
 * As it was before the latest change: status, lists, interests, courses from
 * where they stood, and the mail that was withdrawn. Throws a {@link NotNow}
 * where nothing can be taken back any more. By any email of theirs.
 */
export function takeBack(house: House, outboxId: number): void {
  const { db } = house
  write(house, () => {
    const at = house.clock.now()
    const personId = findEmail(db, outboxId)?.personId
    const person = personId === undefined ? undefined : findPerson(db, personId)
    if (personId === undefined || !person || !canTakeBack(db, personId, at)) throw new NotNow('There is nothing to take back any more.')
    const { id, before } = latestUndo(db, personId)!
    markUndone(db, id, at)
    const causeId = appendEvent(db, 'took-back', at, { personId })
    const cause = { at, causeId, ownAct: true }
    if (isGone(person.status) && !isGone(before.status)) changeStatus(db, personId, 'came-back', cause)
    if (before.status === 'resting') changeStatus(db, personId, 'put-to-rest', cause)
    if (!before.paused) endPause(db, personId, at, causeId, 'own-choice')
    for (const list of listsOfPerson(db, personId)) {
      if (list.leftAt === null && !before.joined.includes(list.id)) leaveList(db, personId, list.id, cause)
      if (list.leftAt !== null && before.joined.includes(list.id)) joinList(db, personId, list.id, cause)
    }
    for (const tag of interestsOfPerson(db, personId)) {
      // What a tag starts was started when it was first given; giving it back starts nothing anew.
      if (!tag.has && before.interests.includes(tag.id)) giveTag(db, personId, tag.id, { ...cause, quiet: true })
      if (tag.has && !before.interests.includes(tag.id)) takeTag(db, personId, tag.id, cause)
    }
    for (const stood of before.enrolments) {
      if (reopenEnrolment(db, stood)) appendEvent(db, 'back-in-course', at, { personId, courseId: findEnrolment(db, stood.id)!.courseId, causeId })
    }
    standOrGo(db, personId, at, causeId)
    queueWithdrawn(db, before.emails)
  })
  house.wake()
}
