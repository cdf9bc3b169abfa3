/**
 * What follows from what: for each kind of event about a person, what it brings about, in this order. A new consequence is a line here and
 * a function in the layer that does it; whoever writes the event knows nothing of it.
 */
import type { EventKind } from '#core/events'
import { isGone, type Status } from '#core/people/status'
import { pointsOf } from '#core/score/score'
import { holdMail, releaseMail } from '#data/choices'
import type { Database } from '#data/connection'
import { coursesStartedBy, coursesStartedByList, runningOf } from '#data/courses'
import { findEnrolment } from '#data/enrolments'
import type { RawEvent } from '#data/events'
import { findField } from '#data/fields'
import { membership } from '#data/marks'
import { standsFor } from '#data/markEnds'
import { findEmail } from '#data/outbox'
import { statusOf } from '#data/people'
import { scoreRule } from '#data/scores'
import { doActionsOfEnd, doActionsOfStep } from '../actions/steps'
import { withdrawConfirmationRequests } from '../facts/confirmationRequests'
import { joinList } from '../facts/marks'
import { addPoints } from '../facts/points'
import { withdrawEmails } from '../facts/withdraw'
import { dateFieldsRunning } from '../journeyFacts'
import { happen } from '../journeys/advancing'
import { endEnrolments, enrol } from '../journeys/enrolments'
import { replanFor } from '../journeys/replanning'
import { standOrGo } from '../journeys/standing'
import { checkExits, checkHolds } from '../journeys/watching'
import type { Story } from './rules'

export interface Consequence {
  does(db: Database, event: RawEvent): void
  /** Something begins by it: not where what is brought in, or given back, is to start nothing. */
  starts?: true
}

/* Beginning */

const startsCoursesOfTag: Consequence = {
  starts: true,
  does(db, { id, personId, at, ownAct, tagId, tagFromId }) {
    for (const asked of [tagId!, tagFromId]) {
      if (asked === null) continue
      for (const courseId of coursesStartedBy(db, asked)) enrol(db, { courseId, personId, at, causeId: id, ownAct })
    }
  },
}

const startsCoursesOfList: Consequence = {
  starts: true,
  does(db, { id, personId, at, ownAct, listId }) {
    for (const courseId of coursesStartedByList(db, listId!)) enrol(db, { courseId, personId, at, causeId: id, ownAct })
  },
}

const joinsListOfCourse: Consequence = {
  does(db, { id, personId, at, ownAct, courseId }) {
    const course = runningOf(db, courseId!)
    const listId = course?.joinsList && course.listId !== null ? standsFor(db, 'lists', course.listId) : null
    if (listId !== null && membership(db, listId, personId) === 'never-joined') joinList(db, personId, listId, { at, causeId: id, ownAct })
  },
}

/* Ending */

/** Those that had begun before: whoever came back since, and began anew, stays. */
const endsCoursesOfList: Consequence = {
  does(db, { id, personId, at, listId }) {
    endEnrolments(db, personId, at, id, 'left-list', row => row.eventId < id && runningOf(db, row.courseId)!.listId === listId)
  },
}

const endsCoursesOfWhoIsGone: Consequence = {
  does(db, { id, personId, at, detail }) {
    if (isGone(detail as Status)) endEnrolments(db, personId, at, id, detail!, row => row.eventId < id)
  },
}

/* Withdrawing */

const withdrawsMailOfList: Consequence = {
  does(db, { id, personId, at, listId }) {
    if (membership(db, listId!, personId) !== 'joined') withdrawEmails(db, personId, { listId: listId! }, at, id, 'left-list')
  },
}

const withdrawsMailOfWhoIsGone: Consequence = {
  does(db, { id, personId, at, detail }) {
    const now = statusOf(db, personId)
    if (!isGone(detail as Status) || !now || !isGone(now)) return
    withdrawConfirmationRequests(db, personId, at, id)
    withdrawEmails(db, personId, {}, at, id, detail!)
  },
}

/* Standing still, and planning anew */

/** Nothing of who rests is held back and passed over: it waits until they are woken. */
const restsOrWakes: Consequence = {
  does(db, { id, personId, at, detail }) {
    if (isGone(detail as Status)) return
    if (detail === 'resting') holdMail(db, personId)
    else releaseMail(db, personId, at)
    standOrGo(db, personId, at, id)
  },
}

const standsStillOrGoesOn: Consequence = { does: (db, { id, personId, at }) => standOrGo(db, personId, at, id) }

/** What goes by a date of theirs goes by the new one. */
const replansByDate: Consequence = {
  does(db, { id, personId, at, fieldId }) {
    if (findField(db, fieldId!)?.kind === 'date' && dateFieldsRunning(db).includes(fieldId!)) replanFor(db, personId, at, id, 'date')
  },
}

const replansByZone: Consequence = { does: (db, { id, personId, at }) => replanFor(db, personId, at, id, 'zone') }

/** What counts from an email that is too many for its reader counts from its new moment. */
const replansWhatCountsFromIt: Consequence = {
  does(db, { id, at, outboxId }) {
    const email = findEmail(db, outboxId!)
    const enrolment = email && email.enrolmentId !== null && !email.isAgain && email.goAt !== null
      ? findEnrolment(db, email.enrolmentId)
      : undefined
    if (enrolment?.status !== 'open') return
    happen(db, enrolment, { kind: 'put-off', at, stepId: email!.itemId, from: email!.plannedAt, to: email!.goAt! }, id)
  },
}

/** What follows at once: it is done before anything else is done to the person by what brought it about. */
export const CONSEQUENCES: Partial<Record<EventKind, readonly Consequence[]>> = {
  'got-tag': [startsCoursesOfTag],
  'asked-again': [startsCoursesOfTag],
  'joined-list': [startsCoursesOfList],
  'enrolled': [joinsListOfCourse],
  'did-step': [{ does: doActionsOfStep }],
  'finished-course': [{ does: doActionsOfEnd }],
  'left-list': [endsCoursesOfList, withdrawsMailOfList],
  'status-changed': [endsCoursesOfWhoIsGone, withdrawsMailOfWhoIsGone, restsOrWakes],
  'paused': [standsStillOrGoesOn],
  'pause-ended': [standsStillOrGoesOn],
  'field-changed': [replansByDate],
  'zone-changed': [replansByZone],
  'put-off': [replansWhatCountsFromIt],
}

/**
 * What any event can bring about after that, each in its turn; not where it is to wake nothing. Who is led out of a course does not go on
 * in it.
 */
export const IN_TURN: readonly ((db: Database, event: RawEvent, story: Story) => void)[] = [
  function bringsPoints(db, event) {
    const points = pointsOf(event, scoreRule(db))
    if (points !== 0) addPoints(db, event.personId, points, event.at, event.id)
  },
  (_, event, story) => story.wake(event),
  checkExits,
  checkHolds,
]
