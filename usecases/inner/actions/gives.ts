/** What an opt-in gives once it counts: at once, or with the yes by email. */
import { SAME_AGAIN_AFTER } from '#core/page/confirm'
import { stepOfFile } from '#core/page/promise'
import { fitsField } from '#core/people/field'
import { STEP_OF_KNOWN } from '#core/page/known'
import type { Status, StatusEvent } from '#core/people/status'
import type { Instant } from '#core/time/zone'
import { occasionOf } from '#core/sending/occasion'
import type { Answers } from '#data/confirmations'
import type { Database } from '#data/connection'
import { insertConsent } from '#data/consents'
import { insertEmail, plannedSince } from '#data/outbox'
import type { PublishedPage } from '#data/pages'
import { findCourse } from '#data/courses'
import { pauseOf } from '#data/choices'
import { findField, fieldsOfPerson } from '#data/fields'
import { standsFor } from '#data/markEnds'
import { membership } from '#data/marks'
import { setField } from '../facts/fieldValue'
import { enrol } from '../journeys/enrolments'
import { endPause } from '../facts/pauses'
import { keepWhatTheyTyped, type Trust } from '../facts/typed'
import { changeStatus, giveTag, joinList } from '../facts/marks'

export interface Counting {
  personId: number
  /** The page as it was when they pressed its button. */
  page: PublishedPage
  answers: Answers
  /** When they pressed the button, and by which event. */
  pressedAt: Instant
  optInId: number
  /** When it counts, and by which event: the same again, or their yes. */
  at: Instant
  causeId: number
  by: Extract<StatusEvent, 'opted-in' | 'confirmed'>
}

/** Keeps the consent as it was given, and gives what the page gives, in the caller's transaction. */
export function giveWhatPageGives(db: Database, counting: Counting): void {
  const { personId, page, answers, pressedAt, optInId, at, causeId, by } = counting
  const { content } = page
  const cause = { at, causeId, ownAct: true }
  const { answered } = answers
  // Whoever typed it: of somebody known it may add, and change nothing.
  const how: Trust = by === 'confirmed' ? 'confirmed' : answers.known ? 'gaps' : 'typed'
  for (const wording of [content.form.consentWording, ...answered.agreed]) {
    insertConsent(db, {
      personId, eventId: optInId, pageVersionId: page.versionId, origin: '', wording, at: pressedAt,
      confirmedAt: by === 'confirmed' ? at : null, ip: answers.ip, zone: answers.zone,
    })
  }
  if (how !== 'gaps') changeStatus(db, personId, by, cause)
  // Who asks for something wants mail.
  if (how !== 'gaps') endPause(db, personId, at, causeId, 'own-choice')
  keepWhatTheyTyped(db, personId, answers, how, cause)
  const filled = new Set(how === 'gaps' ? fieldsOfPerson(db, personId).map(({ fieldId }) => fieldId) : [])
  // A field may have been taken away, or a choice of it, since the button was pressed.
  // What was answered comes before what everybody gets.
  for (const [fieldId, value] of new Map([...content.fields, ...answered.fields].map(gift => [gift.fieldId, gift.value]))) {
    const field = findField(db, fieldId)
    if (field && fitsField(field, value) && !filled.has(fieldId)) setField(db, personId, fieldId, value, cause)
  }
  for (const listId of [...content.listIds, ...answered.listIds]) joinList(db, personId, listId, cause)
  sendEmails(db, counting, how === 'gaps')
  const tagIds = answers.known && content.forKnown ? content.forKnown.tagIds : content.tagIds
  const result = content.resultPages.find(({ id }) => id === answers.resultId)
  for (const tagId of [...tagIds, ...answered.tagIds, ...result?.tagIds ?? []]) giveTag(db, personId, tagId, cause)
  if (content.courseId !== null && findCourse(db, content.courseId)?.status === 'running') {
    enrol(db, { courseId: content.courseId, personId, at, causeId, ownAct: true })
  }
}

/** Whether what a page gives would undo what they decided: leaving, a pause, a rest. */
export function wouldUndo(db: Database, { id, status }: { id: number, status: Status }, listIds: readonly number[]): boolean {
  if (status === 'pending') return false
  const hasLeft = (listId: number) => membership(db, standsFor(db, 'lists', listId) ?? listId, id) === 'left'
  return status !== 'active' || pauseOf(db, id) !== null || listIds.some(hasLeft)
}

/**
 * The promised file, and for people who are known their words of thanks, where the page itself may not show that they are known.
 * Who presses twice in a row gets each once: the first email may still be on its way.
 */
function sendEmails(db: Database, { personId, page, optInId, at, causeId }: Counting, isKnown: boolean): void {
  const { messages, content: { listIds: [listId], promised } } = page
  if (listId === undefined || plannedSince(db, personId, 'file', at - SAME_AGAIN_AFTER, page.id) > 0) return
  const send = (messageId: number | undefined, stepId: string) => messageId !== undefined && insertEmail(db, {
    kind: 'file', ownerId: page.id, personId, itemId: stepId, occasion: occasionOf(optInId), messageId,
    listId, askedFor: 1, causeId, plannedAt: at,
  })
  if (isKnown) send(messages.known, STEP_OF_KNOWN)
  if (promised?.fileId) send(messages.file, stepOfFile(promised.fileId))
}
