/** Status, lists and tags of one person: what changes, and which courses it begins and ends. */
import type { StatusEvent } from '#core/people/status'
import { isGone, statusAfter } from '#core/people/status'
import { expiryOf, fillBlanks, hasBlanks } from '#core/people/tag'
import type { Instant } from '#core/time/zone'
import type { Database } from '#data/connection'
import { coursesStartedBy, coursesStartedByList, runningOf } from '#data/courses'
import { appendEvent } from '#data/events'
import { findPerson, setStatus } from '#data/people'
import { deleteHolding, findTag, findTagByName, hasTag, insertHolding, insertTag, membership, renewHolding, setJoined, setLeft, tagsMadeFrom, type TagRow } from '#data/marks'
import { standsFor } from '#data/markEnds'
import { workspaceOf } from '#data/workspace'
import { withdrawConfirmationRequests } from './confirmationRequests'
import { catchUp, endEnrolments, enrol, withdrawEmails } from './enrolments'
import { beginRest, endRest } from './pauses'

/** What brought something about: when, by which event, and whether it was the person's own act. */
export interface Cause {
  at: Instant
  /** Null for what the owner does by hand. */
  causeId: number | null
  ownAct: boolean
  /** The owner said so for many at once, which is as good as by hand. */
  byOwner?: boolean
  /** An import that was told to start nothing: no course begins. That no rule wakes is said where its events are written. */
  quiet?: boolean
  /** A house rule does it. */
  byRule?: boolean
  /** A step of a course does it. */
  byCourse?: boolean
  /** A program does it, with a key the owner gave it. */
  byProgram?: boolean
}

export const how = ({ causeId, byOwner, byRule, byCourse, byProgram }: Pick<Cause, 'causeId' | 'byOwner' | 'byRule' | 'byCourse' | 'byProgram'>) => byRule ? 'by-rule' : byCourse ? 'by-course' : byProgram ? 'by-program' : causeId === null || byOwner ? 'by-hand' : undefined

/** Changes the status along the written table; someone who is gone leaves every course, and their mail is withdrawn. */
export function changeStatus(db: Database, personId: number, event: StatusEvent, { at, causeId }: Cause): void {
  const person = findPerson(db, personId)!
  const status = statusAfter(person.status, event)
  if (status === person.status) return
  // Who is gone gets nothing more, however late the machine is.
  if (!isGone(status)) catchUp(db, personId, at)
  setStatus(db, personId, status)
  const eventId = appendEvent(db, 'status-changed', at, { personId, causeId, detail: status })
  // By opting in again or buying; who asks for it on their choices page has said so in an event of its own.
  if (isGone(person.status) && status === 'active' && event !== 'came-back') appendEvent(db, 'came-back', at, { personId, causeId: eventId })
  if (status === 'resting') beginRest(db, personId, at, eventId)
  else if (person.status === 'resting' && !isGone(status)) endRest(db, personId, at, eventId)
  if (isGone(status)) {
    endEnrolments(db, personId, at, eventId, status)
    withdrawConfirmationRequests(db, personId, at, eventId)
    withdrawEmails(db, personId, {}, at, eventId, status)
  }
}

/** Joining a list begins the courses that it starts. */
export function joinList(db: Database, personId: number, wantedId: number, cause: Cause): void {
  const listId = standsFor(db, 'lists', wantedId)
  if (listId === null || membership(db, listId, personId) === 'joined') return
  const { at, causeId } = cause
  catchUp(db, personId, at)
  const eventId = appendEvent(db, 'joined-list', at, { personId, listId, causeId, detail: how(cause) })
  setJoined(db, listId, personId, at, eventId)
  if (!cause.quiet) for (const courseId of coursesStartedByList(db, listId)) enrol(db, { courseId, personId, at, causeId: eventId, ownAct: cause.ownAct })
}

/** Leaving a list ends the courses that belong to it. */
export function leaveList(db: Database, personId: number, wantedId: number, cause: Cause): void {
  const listId = standsFor(db, 'lists', wantedId)
  if (listId === null) return
  const standing = membership(db, listId, personId)
  if (standing === 'left') return
  const { at, causeId } = cause
  const eventId = appendEvent(db, 'left-list', at, { personId, listId, causeId, detail: how(cause) })
  // Someone mailed without ever having joined has left from now on, too.
  if (standing === 'never-joined') setJoined(db, listId, personId, at, eventId)
  setLeft(db, listId, personId, at)
  endEnrolments(db, personId, at, eventId, 'left-list', row => runningOf(db, row.courseId)!.listId === listId)
  withdrawEmails(db, personId, { listId }, at, eventId, 'left-list')
}

/**
 * Gives a tag; false if they have it already. A tag with blanks is given as the
 * one that it is filled in to. The courses that it starts are entered also by
 * someone who has the tag already: asking for something a second time is a way
 * in, too. A tag that was deleted gives nothing.
 */
export function giveTag(db: Database, personId: number, wantedId: number, cause: Cause): boolean {
  const filled = filledTag(db, wantedId, cause.at)
  if (!filled) return false
  const { tag, asked } = filled
  const { at, ownAct } = cause
  const expiresAt = tag.expiry.kind === 'never' ? null : expiryOf(tag.expiry, at, workspaceOf(db).zone)
  let { causeId } = cause
  const had = hasTag(db, tag.id, personId)
  if (!had) catchUp(db, personId, at)
  if (had) {
    renewHolding(db, tag.id, personId, expiresAt)
    if (!ownAct || causeId === null) return false
  }
  else {
    causeId = appendEvent(db, 'got-tag', at, { personId, tagId: tag.id, causeId, detail: how(cause) })
    insertHolding(db, { tagId: tag.id, personId, sinceAt: at, expiresAt, eventId: causeId })
  }
  if (!cause.quiet) for (const tagId of asked) for (const courseId of coursesStartedBy(db, tagId)) enrol(db, { courseId, personId, at, causeId: causeId!, ownAct })
  return !had
}

/** Takes a tag away; of one with blanks, all that were filled in from it. False if they have none of them. */
export function takeTag(db: Database, personId: number, wantedId: number, cause: Cause, detail = how(cause)): boolean {
  const tagId = standsFor(db, 'tags', wantedId)
  if (tagId === null) return false
  catchUp(db, personId, cause.at)
  const lost = [tagId, ...tagsMadeFrom(db, tagId)].filter(oneId => deleteHolding(db, oneId, personId))
  for (const oneId of lost) appendEvent(db, 'lost-tag', cause.at, { personId, tagId: oneId, causeId: cause.causeId, detail })
  return lost.length > 0
}

/** The tag that is really given, and by which tags' ways in and rules. Undefined for a deleted one. */
export function filledTag(db: Database, wantedId: number, at: Instant): { tag: TagRow, asked: number[] } | undefined {
  const tagId = standsFor(db, 'tags', wantedId)
  if (tagId === null) return undefined
  const tag = findTag(db, tagId)!
  if (!hasBlanks(tag.name)) return { tag, asked: [tagId] }
  const name = fillBlanks(tag.name, { at, zone: workspaceOf(db).zone, launch: null })
  const filledId = findTagByName(db, name)?.id ?? insertTag(db, { ...tag, name }, at, tagId)
  return { tag: findTag(db, filledId)!, asked: [filledId, tagId] }
}
