/** Status, lists and tags of one person: what changes, and what follows from it at once. */
import type { StatusEvent } from '#core/people/status'
import { isGone, statusAfter } from '#core/people/status'
import { expiryOf, fillBlanks, hasBlanks } from '#core/people/tag'
import { wokenBy, type Chain, type Happening } from '#core/rules/rule'
import type { Instant } from '#core/time/zone'
import type { Database } from '#data/connection'
import { coursesStartedBy, findCourse } from '#data/courses'
import { appendEvent } from '#data/events'
import { findPerson, setStatus } from '#data/people'
import { deleteHolding, findTag, findTagByName, hasTag, insertHolding, insertTag, membership, renewHolding, setJoined, setLeft, tagsMadeFrom, type TagRow } from '#data/marks'
import { standsFor } from '#data/markEnds'
import { rulesOn } from '#data/rules'
import { workspaceOf } from '#data/workspace'
import { withdrawAskings } from './askings'
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
  /** A house rule does it, */
  byRule?: boolean
  /** as part of what has come of one event so far. */
  chain?: Chain
}

const how = ({ causeId, byOwner, byRule }: Cause) => byRule ? 'by-rule' : causeId === null || byOwner ? 'by-hand' : undefined

/** Changes the status along the written table; someone who is gone leaves every course, and their mail is withdrawn. */
export function changeStatus(db: Database, personId: number, event: StatusEvent, { at, causeId }: Cause): void {
  const person = findPerson(db, personId)!
  const status = statusAfter(person.status, event)
  if (status === person.status) return
  setStatus(db, personId, status)
  const eventId = appendEvent(db, 'status-changed', at, { personId, causeId, detail: status })
  if (isGone(status)) {
    endEnrolments(db, personId, at, eventId, status)
    withdrawAskings(db, personId, at, eventId)
    withdrawEmails(db, personId, {}, at, eventId, status)
  }
}

export function joinList(db: Database, personId: number, wantedId: number, cause: Cause): void {
  const listId = standsFor(db, 'lists', wantedId)
  if (listId === null || membership(db, listId, personId) === 'joined') return
  const { at, causeId } = cause
  const eventId = appendEvent(db, 'joined-list', at, { personId, listId, causeId, detail: how(cause) })
  setJoined(db, listId, personId, at, eventId)
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
  endEnrolments(db, personId, at, eventId, 'left-list', row => findCourse(db, row.courseId)!.listId === listId)
  withdrawEmails(db, personId, { listId }, at, eventId, 'left-list')
}

/**
 * Gives a tag, and does what follows from it. A tag with blanks is given as the
 * one that it is filled in to. The courses that it starts are entered also by
 * someone who has the tag already: asking for something a second time is a way
 * in, too. A tag that was deleted gives nothing.
 */
export function giveTag(db: Database, personId: number, wantedId: number, cause: Cause): void {
  const filled = filledTag(db, wantedId, cause.at)
  if (!filled) return
  const { tag, asked } = filled
  const { at, ownAct } = cause
  const expiresAt = tag.expiry.kind === 'never' ? null : expiryOf(tag.expiry, at, workspaceOf(db).zone)
  let { causeId } = cause
  const had = hasTag(db, tag.id, personId)
  if (had) {
    renewHolding(db, tag.id, personId, expiresAt)
    if (!ownAct || causeId === null) return
  }
  else {
    causeId = appendEvent(db, 'got-tag', at, { personId, tagId: tag.id, causeId, detail: how(cause) })
    insertHolding(db, { tagId: tag.id, personId, sinceAt: at, expiresAt, eventId: causeId })
  }
  if (cause.quiet) return
  for (const tagId of asked) for (const courseId of coursesStartedBy(db, tagId)) enrol(db, { courseId, personId, at, causeId: causeId!, ownAct })
  if (!had) for (const tagId of asked) wake(db, personId, { kind: 'got-tag', tagId }, { ...cause, causeId })
}

/** Takes a tag away; of one with blanks, all that were filled in from it. */
export function takeTag(db: Database, personId: number, wantedId: number, cause: Cause, detail = how(cause)): void {
  const tagId = standsFor(db, 'tags', wantedId)
  if (tagId === null) return
  for (const oneId of [tagId, ...tagsMadeFrom(db, tagId)]) {
    if (!deleteHolding(db, oneId, personId)) continue
    const causeId = appendEvent(db, 'lost-tag', cause.at, { personId, tagId: oneId, causeId: cause.causeId, detail })
    if (cause.quiet) continue
    for (const one of new Set([oneId, tagId])) wake(db, personId, { kind: 'lost-tag', tagId: one }, { ...cause, causeId })
  }
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

/** House rules do what follows, in the same transaction. They never count as the person's own act. */
function wake(db: Database, personId: number, happening: Happening, cause: Cause): void {
  const rules = rulesOn(db, happening)
  if (rules.length === 0) return
  const chain = cause.chain ?? { acted: new Set(), depth: 0 }
  const { act, cut } = wokenBy(rules, chain)
  if (cut.length > 0) appendEvent(db, 'rules-cut', cause.at, { personId, tagId: happening.tagId, causeId: cause.causeId })
  for (const rule of act) {
    chain.acted.add(rule.id)
    const follows: Cause = { at: cause.at, causeId: cause.causeId, ownAct: false, byRule: true, chain: { acted: chain.acted, depth: chain.depth + 1 } }
    for (const { kind, tagId } of rule.then) {
      if (kind === 'give-tag') giveTag(db, personId, tagId, follows)
      else takeTag(db, personId, tagId, follows)
    }
  }
}
