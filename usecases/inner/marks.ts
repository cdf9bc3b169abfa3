/** Status, lists and tags of one person: what changes, and what follows from it at once. */
import type { StatusEvent } from '#core/people/status'
import { isGone, statusAfter } from '#core/people/status'
import { expiryOf } from '#core/people/tag'
import type { Instant } from '#core/time/zone'
import type { Database } from '#data/connection'
import { coursesStartedBy, findCourse } from '#data/courses'
import { appendEvent } from '#data/events'
import { findPerson, setStatus } from '#data/people'
import { deleteHolding, findTag, hasTag, insertHolding, membership, renewHolding, setJoined, setLeft } from '#data/marks'
import { workspaceOf } from '#data/workspace'
import { endEnrolments, enrol, withdrawEmails } from './enrolments'

/** What brought something about: when, by which event, and whether it was the person's own act. */
export interface Cause {
  at: Instant
  /** Null for what the owner does by hand. */
  causeId: number | null
  ownAct: boolean
  /** The owner said so for many at once, which is as good as by hand. */
  byOwner?: boolean
  /** An import that was told to start nothing: neither courses begin nor rules wake. */
  quiet?: boolean
}

const how = ({ causeId, byOwner }: Cause) => causeId === null || byOwner ? 'by-hand' : undefined

/** Changes the status along the written table; someone who is gone leaves every course, and their mail is withdrawn. */
export function changeStatus(db: Database, personId: number, event: StatusEvent, { at, causeId }: Cause): void {
  const person = findPerson(db, personId)!
  const status = statusAfter(person.status, event)
  if (status === person.status) return
  setStatus(db, personId, status)
  const eventId = appendEvent(db, 'status-changed', at, { personId, causeId, detail: status })
  if (isGone(status)) {
    endEnrolments(db, personId, at, eventId, status)
    withdrawEmails(db, personId, {}, at, eventId, status)
  }
}

export function joinList(db: Database, personId: number, listId: number, cause: Cause): void {
  if (membership(db, listId, personId) === 'joined') return
  const { at, causeId } = cause
  const eventId = appendEvent(db, 'joined-list', at, { personId, listId, causeId, detail: how(cause) })
  setJoined(db, listId, personId, at, eventId)
}

/** Leaving a list ends the courses that belong to it. */
export function leaveList(db: Database, personId: number, listId: number, cause: Cause): void {
  const standing = membership(db, listId, personId)
  if (standing === 'left') return
  const { at, causeId } = cause
  const eventId = appendEvent(db, 'left-list', at, { personId, listId, causeId, detail: how(cause) })
  // Someone mailed without ever having joined has left from now on, too.
  if (standing === 'never-joined') setJoined(db, listId, personId, at, eventId)
  setLeft(db, listId, personId, at)
  endEnrolments(db, personId, at, eventId, 'left-list', row => findCourse(db, row.courseId)!.listId === listId)
  withdrawEmails(db, personId, { listId }, at, eventId, 'left-list')
}

/**
 * Gives a tag. The courses that it starts are entered also by someone who has
 * the tag already: asking for something a second time is a way in, too.
 */
export function giveTag(db: Database, personId: number, tagId: number, cause: Cause): void {
  const { at, ownAct } = cause
  let { causeId } = cause
  const expiresAt = expiryOf(findTag(db, tagId)!.expiry, at, workspaceOf(db).zone)
  if (!hasTag(db, tagId, personId)) {
    const eventId = appendEvent(db, 'got-tag', at, { personId, tagId, causeId, detail: how(cause) })
    insertHolding(db, { tagId, personId, sinceAt: at, expiresAt, eventId })
    causeId = eventId
  }
  else {
    renewHolding(db, tagId, personId, expiresAt)
    if (!ownAct || causeId === null) return
  }
  if (cause.quiet) return
  for (const courseId of coursesStartedBy(db, tagId)) {
    enrol(db, { courseId, personId, at, causeId, ownAct })
  }
}

export function takeTag(db: Database, personId: number, tagId: number, cause: Cause, detail = how(cause)): void {
  if (deleteHolding(db, tagId, personId)) appendEvent(db, 'lost-tag', cause.at, { personId, tagId, causeId: cause.causeId, detail })
}
