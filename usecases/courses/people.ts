/** What the owner does by hand to one person's journey. */
import { dequal } from 'dequal'
import { placesOf } from '#core/sequence/program'
import { occasionOf } from '#core/sending/occasion'
import {
  emailsOfJourney, keepJourneyUndo, queueWithdrawn, reopenEnrolment, setStand, stoodThere, takeJourneyUndo,
} from '#data/choices'
import type { Database } from '#data/connection'
import { findCourse, programOfVersion } from '#data/courses'
import { findEnrolment, setStill, type EnrolmentRow } from '#data/enrolments'
import { appendEvent } from '#data/events'
import { findEmail, insertEmail } from '#data/outbox'
import { findPerson } from '#data/people'
import type { WorkspaceContext } from '../context'
import { endEnrolments, enrol, moveTo } from '../inner/journeys/enrolments'
import { transact } from '../inner/reactor/transaction'
import { holdWhatWaits } from '../inner/facts/pauses'
import { catchUp } from '../inner/facts/reacting'
import { upToDate } from '../inner/journeys/advancing'
import { standOrGo } from '../inner/journeys/standing'
import { InputProblem, NotNow, NotThere } from '../problem'

/** Where nothing comes of it, why stands in their history. */
export function letIn(context: WorkspaceContext, courseId: number, personId: number): 'enrolled' | 'stays-out' {
  const { db } = context
  const outcome = transact(context, () => {
    if (!findPerson(db, personId)) throw new NotThere('This subscriber no longer exists.')
    const course = findCourse(db, courseId)
    if ((course?.versionId ?? null) === null) throw new NotNow('This course is not running yet. Start it first.')
    if (course!.stoppedAt !== null) throw new NotNow('This course is stopped, so nobody can join. Resume it first.')
    const at = context.clock.now()
    return enrol(db, { courseId, personId, at, causeId: appendEvent(db, 'let-in', at, { personId, courseId }), ownAct: false })
  })
  context.wake()
  return outcome
}

function openOne(db: Database, enrolmentId: number): EnrolmentRow {
  const row = findEnrolment(db, enrolmentId)
  if (row?.status !== 'open') throw new NotThere('They are no longer in this course.')
  return upToDate(db, row)
}

/** They go on before another step; what comes next counts from now. An email they were sent is not sent again by it. */
export function movePerson(context: WorkspaceContext, enrolmentId: number, toId: string): void {
  const { db } = context
  transact(context, () => {
    const row = openOne(db, enrolmentId)
    if (!placesOf(programOfVersion(db, row.versionId)).has(toId)) {
      throw new InputProblem([{ field: 'toId', problem: 'This step is not published yet. Publish it first.' }])
    }
    const at = context.clock.now()
    const emails = emailsOfJourney(db, row.id)
    moveTo(db, row, toId, at, null, 'by-hand')
    const now = findEnrolment(db, row.id)!
    keepJourneyUndo(db, { before: stoodThere(row), after: now.status === 'open' ? stoodThere(now) : null, emails, at })
  })
  context.wake()
}

/** Nothing more is done for them there until they go on; then what was left of each wait runs on. */
export function standStill(context: WorkspaceContext, enrolmentId: number): void {
  const { db } = context
  transact(context, () => {
    const row = openOne(db, enrolmentId)
    if (row.stillSince !== null) return
    const at = context.clock.now()
    const eventId = appendEvent(db, 'stood-still', at, { personId: row.personId, courseId: row.courseId })
    catchUp(db, row.personId, at)
    setStill(db, row.id, at)
    standOrGo(db, row.personId, at, eventId)
  })
}

export function goOnAgain(context: WorkspaceContext, enrolmentId: number): void {
  const { db } = context
  transact(context, () => {
    const row = openOne(db, enrolmentId)
    if (row.stillSince === null) return
    const at = context.clock.now()
    const eventId = appendEvent(db, 'went-on', at, { personId: row.personId, courseId: row.courseId, detail: 'by-hand' })
    setStill(db, row.id, null)
    standOrGo(db, row.personId, at, eventId)
  })
  context.wake()
}

/** What waits to be sent is withdrawn. */
export function takeOut(context: WorkspaceContext, enrolmentId: number): void {
  const { db } = context
  transact(context, () => {
    const row = openOne(db, enrolmentId)
    const at = context.clock.now()
    keepJourneyUndo(db, { before: stoodThere(row), after: null, emails: emailsOfJourney(db, row.id), at })
    endEnrolments(
      db, row.personId, at, appendEvent(db, 'taken-out', at, { personId: row.personId, courseId: row.courseId }), 'taken-out',
      one => one.id === row.id,
    )
  })
}

/**
 * Puts them back where they stood before they were moved or taken out by hand, with the emails that were waiting. Throws a {@link NotNow}
 * where they have gone on or joined again since, and a {@link NotThere} where nothing was done that can be undone.
 */
export function undoByHand(context: WorkspaceContext, enrolmentId: number): void {
  const { db } = context
  transact(context, () => {
    const undo = takeJourneyUndo(db, enrolmentId)
    const row = findEnrolment(db, enrolmentId)
    if (!undo || !row) throw new NotThere('There is nothing left to undo.')
    const moved = row.status === 'open' && undo.after !== null && dequal(stoodThere(row), undo.after)
    if (moved) setStand(db, undo.before)
    else if (undo.after !== null || !reopenEnrolment(db, undo.before)) {
      throw new NotNow('They have continued or joined again since, so nothing was undone.')
    }
    const { personId, courseId } = row
    const at = context.clock.now()
    const eventId = appendEvent(db, 'back-in-course', at, { personId, courseId, detail: 'by-hand' })
    standOrGo(db, personId, at, eventId)
    queueWithdrawn(db, undo.emails)
    holdWhatWaits(db, personId)
  })
  context.wake()
}

/** An email of a course goes to its reader once more, as it was worded then. The last look is taken as always. */
export function sendAgain(context: WorkspaceContext, outboxId: number): void {
  const { db } = context
  transact(context, () => {
    const email = findEmail(db, outboxId)
    if (email?.kind !== 'course') throw new NotThere('This email no longer exists.')
    if (email.status === 'queued' || email.status === 'leased' || email.status === 'handing over') {
      throw new NotNow('This email is already on its way.')
    }
    const at = context.clock.now()
    const causeId = appendEvent(db, 'sent-again', at, { personId: email.personId, courseId: email.ownerId, outboxId, stepId: email.itemId })
    const { kind, ownerId, personId, itemId, occasionId, messageId, enrolmentId, listId } = email
    insertEmail(db, {
      kind, ownerId, personId, itemId, occasion: occasionOf(occasionId, `by-hand-${causeId}`), messageId, enrolmentId, listId, askedFor: 0,
      causeId,
      plannedAt: at,
    })
  })
  context.wake()
}
