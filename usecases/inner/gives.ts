/** What an opt-in gives once it counts: at once, or with the yes by email. */
import { SAME_AGAIN_AFTER } from '#core/page/confirm'
import { stepOfFile } from '#core/page/promise'
import { fitsField } from '#core/people/field'
import type { StatusEvent } from '#core/people/status'
import type { Instant } from '#core/time/zone'
import type { Answers } from '#data/confirmations'
import type { Database } from '#data/connection'
import { insertConsent } from '#data/consents'
import { insertEmail, plannedSince } from '#data/outbox'
import type { PublishedPage } from '#data/pages'
import { findCourse } from '#data/courses'
import { findField } from '#data/fields'
import { setField } from './fieldValue'
import { enrol } from './enrolments'
import { endPause } from './pauses'
import { keepWhatTheyTold } from './told'
import { changeStatus, giveTag, joinList } from './marks'

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
export function giveWhatPageGives(db: Database, { personId, page, answers, pressedAt, optInId, at, causeId, by }: Counting): void {
  const { content } = page
  const cause = { at, causeId, ownAct: true }
  const { answered } = answers
  for (const wording of [content.form.consentWording, ...answered.agreed]) {
    insertConsent(db, {
      personId, eventId: optInId, pageVersionId: page.versionId, origin: '', wording, at: pressedAt, confirmedAt: by === 'confirmed' ? at : null, ip: answers.ip, zone: answers.zone,
    })
  }
  changeStatus(db, personId, by, cause)
  // Who asks for something wants mail.
  endPause(db, personId, at, causeId, 'own-choice')
  keepWhatTheyTold(db, personId, answers, cause)
  // A field may have been taken away, or a choice of it, since the button was pressed. What was answered comes before what everybody gets.
  for (const [fieldId, value] of new Map([...content.fields, ...answered.fields].map(gift => [gift.fieldId, gift.value]))) {
    const field = findField(db, fieldId)
    if (field && fitsField(field, value)) setField(db, personId, fieldId, value, cause)
  }
  for (const listId of [...content.listIds, ...answered.listIds]) joinList(db, personId, listId, cause)
  if (content.promised?.fileId) sendPromised(db, personId, page, content.promised.fileId, optInId, { at, causeId })
  const tagIds = answers.known && content.forKnown ? content.forKnown.tagIds : content.tagIds
  const result = content.resultPages.find(({ id }) => id === answers.resultId)
  for (const tagId of [...tagIds, ...answered.tagIds, ...result?.tagIds ?? []]) giveTag(db, personId, tagId, cause)
  if (content.courseId !== null && findCourse(db, content.courseId)?.status === 'running') enrol(db, { courseId: content.courseId, personId, at, causeId, ownAct: true })
}

/** Who presses twice in a row gets the file once: the first email may still be on its way. */
function sendPromised(db: Database, personId: number, page: PublishedPage, fileId: number, optInId: number, { at, causeId }: { at: Instant, causeId: number }): void {
  const messageId = page.messages.file
  const listId = page.content.listIds[0]
  if (messageId === undefined || listId === undefined || plannedSince(db, personId, 'file', at - SAME_AGAIN_AFTER, page.id) > 0) return
  insertEmail(db, {
    kind: 'file', thingId: page.id, personId, stepId: stepOfFile(fileId), visit: optInId, purpose: 'first', messageId, enrolmentId: null, listId, askedFor: 1, causeId, plannedAt: at,
  })
}
