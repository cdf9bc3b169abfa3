/** Status, lists and tags of one person: the row and the event. What follows from it, the consequences see to. */
import type { StatusEvent } from '#core/people/status'
import { isGone, statusAfter } from '#core/people/status'
import { expiryOf, fillBlanks, hasBlanks } from '#core/people/tag'
import type { Instant } from '#core/time/zone'
import type { Database } from '#data/connection'
import { coursesStartedBy } from '#data/courses'
import { appendEvent } from '#data/events'
import {
  deleteHolding, findTag, findTagByName, hasTag, insertHolding, insertTag, membership, renewHolding, setJoined, setLeft, tagsMadeFrom,
  type TagRow,
} from '#data/marks'
import { standsFor } from '#data/markEnds'
import { findPerson, setStatus } from '#data/people'
import { workspaceOf } from '#data/workspace'
import { how, type Cause } from './cause'
import { catchUp } from './reacting'

/** Changes the status along the written table. */
export function changeStatus(db: Database, personId: number, event: StatusEvent, { at, causeId, ownAct }: Cause): void {
  const person = findPerson(db, personId)!
  const status = statusAfter(person.status, event)
  if (status === person.status) return
  // Who is gone gets nothing more, however late the machine is.
  if (!isGone(status)) catchUp(db, personId, at)
  setStatus(db, personId, status)
  const eventId = appendEvent(db, 'status-changed', at, { personId, causeId, ownAct, detail: status })
  // By opting in again or buying; who asks for it on their choices page has said so in an event of its own.
  if (isGone(person.status) && status === 'active' && event !== 'came-back') {
    appendEvent(db, 'came-back', at, { personId, causeId: eventId, ownAct })
  }
}

/** Does nothing for who is on it already. */
export function joinList(db: Database, personId: number, wantedId: number, cause: Cause): void {
  const listId = standsFor(db, 'lists', wantedId)
  if (listId === null || membership(db, listId, personId) === 'joined') return
  const { at, causeId, ownAct } = cause
  catchUp(db, personId, at)
  setJoined(db, listId, personId, at, appendEvent(db, 'joined-list', at, { personId, listId, causeId, ownAct, detail: how(cause) }))
}

/** Someone mailed without ever having joined has left from now on, too. */
export function leaveList(db: Database, personId: number, wantedId: number, cause: Cause): void {
  const listId = standsFor(db, 'lists', wantedId)
  if (listId === null) return
  const standing = membership(db, listId, personId)
  if (standing === 'left') return
  const { at, causeId, ownAct } = cause
  const eventId = appendEvent(db, 'left-list', at, { personId, listId, causeId, ownAct, detail: how(cause) })
  if (standing === 'never-joined') setJoined(db, listId, personId, at, eventId)
  setLeft(db, listId, personId, at)
}

/**
 * Gives a tag; false if they have it already. A tag with blanks is given as the one that it is filled in to. Asking for something a
 * second time is a way into the courses that begin with it, too, and written down as such. A tag that was deleted gives nothing.
 */
export function giveTag(db: Database, personId: number, wantedId: number, cause: Cause): boolean {
  const tag = filledTag(db, wantedId, cause.at)
  if (!tag) return false
  const { at, causeId, ownAct } = cause
  const expiresAt = tag.expiry.kind === 'never' ? null : expiryOf(tag.expiry, at, workspaceOf(db).zone)
  const had = hasTag(db, tag.id, personId)
  if (had) {
    renewHolding(db, tag.id, personId, expiresAt)
    const asked = ownAct && causeId !== null && [tag.id, standsFor(db, 'tags', wantedId)!].some(id => coursesStartedBy(db, id).length > 0)
    if (asked) appendEvent(db, 'asked-again', at, { personId, tagId: tag.id, causeId, ownAct })
    return false
  }
  catchUp(db, personId, at)
  const eventId = appendEvent(db, 'got-tag', at, { personId, tagId: tag.id, causeId, ownAct, detail: how(cause) })
  insertHolding(db, { tagId: tag.id, personId, sinceAt: at, expiresAt, eventId })
  return true
}

/** Takes a tag away; of one with blanks, all that were filled in from it. False if they have none of them. */
export function takeTag(db: Database, personId: number, wantedId: number, cause: Cause, detail = how(cause)): boolean {
  const tagId = standsFor(db, 'tags', wantedId)
  if (tagId === null) return false
  const { at, causeId, ownAct } = cause
  catchUp(db, personId, at)
  const lost = [tagId, ...tagsMadeFrom(db, tagId)].filter(oneId => deleteHolding(db, oneId, personId))
  for (const oneId of lost) appendEvent(db, 'lost-tag', at, { personId, tagId: oneId, causeId, ownAct, detail })
  return lost.length > 0
}

/** The tag that is really given. Undefined for a deleted one. */
export function filledTag(db: Database, wantedId: number, at: Instant): TagRow | undefined {
  const tagId = standsFor(db, 'tags', wantedId)
  if (tagId === null) return undefined
  const tag = findTag(db, tagId)!
  if (!hasBlanks(tag.name)) return tag
  const name = fillBlanks(tag.name, { at, zone: workspaceOf(db).zone, launch: null })
  const filledId = findTagByName(db, name)?.id ?? insertTag(db, { ...tag, name }, at, tagId)
  return findTag(db, filledId)!
}
