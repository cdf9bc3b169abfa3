/** How somebody stood before something took it from them, and setting it back to that. In the caller's transaction. */
import { isGone } from '#core/people/status'
import type { Instant } from '#core/time/zone'
import { emailsNotBegun, pauseOf, queueWithdrawn, reopenEnrolment, stoodThere, type StoodBefore } from '#data/choices'
import type { Database } from '#data/connection'
import { findEnrolment, openEnrolmentsOfPerson } from '#data/enrolments'
import { appendEvent, writingAs } from '#data/events'
import { interestsOfPerson, listsOfPerson } from '#data/marks'
import { findPerson } from '#data/people'
import { changeStatus, giveTag, joinList, leaveList, takeTag } from '../facts/marks'
import { endPause, holdWhatWaits } from '../facts/pauses'
import { settled } from '../facts/reacting'
import { standOrGo } from '../journeys/standing'

export function standingNow(db: Database, personId: number): StoodBefore {
  return {
    status: findPerson(db, personId)!.status,
    joined: listsOfPerson(db, personId).filter(list => list.leftAt === null).map(({ id }) => id),
    interests: interestsOfPerson(db, personId).filter(tag => tag.has).map(({ id }) => id),
    paused: pauseOf(db, personId) !== null,
    enrolments: openEnrolmentsOfPerson(db, personId).map(stoodThere),
    emails: emailsNotBegun(db, personId),
  }
}

/** Status, lists, interests, courses from where they stood, and the mail that was withdrawn. */
export function setAsBefore(db: Database, personId: number, before: StoodBefore, { at, causeId }: { at: Instant, causeId: number }): void {
  const cause = { at, causeId, ownAct: true }
  // What lists and tags start was started when they were first given; giving them back starts nothing anew.
  settled(db, () => writingAs(db, { quiet: 'starts-nothing' }, () => {
    const person = findPerson(db, personId)!
    if (isGone(person.status) && !isGone(before.status)) changeStatus(db, personId, 'came-back', cause)
    if (before.status === 'resting') changeStatus(db, personId, 'put-to-rest', cause)
    if (!before.paused) endPause(db, personId, at, causeId, 'own-choice')
    for (const list of listsOfPerson(db, personId)) {
      if (list.leftAt === null && !before.joined.includes(list.id)) leaveList(db, personId, list.id, cause)
      if (list.leftAt !== null && before.joined.includes(list.id)) joinList(db, personId, list.id, cause)
    }
    for (const tag of interestsOfPerson(db, personId)) {
      if (!tag.has && before.interests.includes(tag.id)) giveTag(db, personId, tag.id, cause)
      if (tag.has && !before.interests.includes(tag.id)) takeTag(db, personId, tag.id, cause)
    }
  }))
  for (const stood of before.enrolments) {
    if (reopenEnrolment(db, stood)) {
      appendEvent(db, 'back-in-course', at, { personId, courseId: findEnrolment(db, stood.id)!.courseId, causeId })
    }
  }
  standOrGo(db, personId, at, causeId)
  queueWithdrawn(db, before.emails)
  holdWhatWaits(db, personId)
}
