/** What a purchase gives and takes away again, and the receipt of each payment; all in the caller's transaction. */
import type { OfferContent } from '#core/offers/offer'
import { fitsField } from '#core/people/field'
import { localOf } from '#core/time/zone'
import { occasionOf } from '#core/sending/occasion'
import { insertConsent } from '#data/consents'
import type { Database } from '#data/connection'
import { findCourse } from '#data/courses'
import { quietNow } from '#data/events'
import { findField } from '#data/fields'
import { findOfferVersion } from '#data/offers'
import { insertEmail } from '#data/outbox'
import { findPerson, nameIsTheirs } from '#data/people'
import { owns, type CheckoutRow, type PaymentRow, type PurchaseRow } from '#data/purchases'
import { workspaceOf } from '#data/workspace'
import type { Cause } from '../facts/cause'
import { setField } from '../facts/fieldValue'
import { changeStatus, giveTag, joinList, takeTag } from '../facts/marks'
import { endPause } from '../facts/pauses'
import { keepWhatTheyTyped } from '../facts/typed'
import { endEnrolments, enrol } from '../journeys/enrolments'
import { listOfMail, originOf } from '../purchased'

/** Pressing the button of our page and paying is an act of their own: it counts as consent to what was agreed to there. */
export function welcomeBuyer(db: Database, {
  personId, offerVersionId, answers, startedAt, eventId, firstPrice,
}: CheckoutRow, cause: Cause & { causeId: number }): void {
  const { at, causeId } = cause
  insertConsent(db, {
    personId, eventId, pageVersionId: null, origin: originOf(findOfferVersion(db, offerVersionId)!), wording: answers.consent,
    at: startedAt, confirmedAt: null, ip: answers.ip, zone: answers.zone,
  })
  keepWhatTheyTyped(db, personId, answers, findPerson(db, personId)!.status === 'pending' ? 'typed' : 'gaps', cause)
  // Nobody pays to have a name written into somebody else's mail.
  if (firstPrice.amount > 0 && findPerson(db, personId)!.firstName === answers.firstName) nameIsTheirs(db, personId)
  changeStatus(db, personId, 'bought', cause)
  endPause(db, personId, at, causeId, 'own-choice')
}

/** They leave the courses that the purchase ends before they come into the one that it starts. What is gone meanwhile gives nothing. */
export function giveWhatOfferGives(
  db: Database, personId: number, { gives }: Pick<OfferContent, 'gives'>, cause: Cause & { causeId: number },
): void {
  const { at, causeId, ownAct } = cause
  const isQuiet = quietNow(db) !== null
  if (gives.endsCourseIds.length > 0 && !isQuiet) {
    endEnrolments(db, personId, at, causeId, 'bought', row => gives.endsCourseIds.includes(row.courseId))
  }
  for (const { fieldId, value } of gives.fields) {
    const field = findField(db, fieldId)
    if (field && fitsField(field, value)) setField(db, personId, fieldId, value, cause)
  }
  for (const listId of gives.listIds) joinList(db, personId, listId, cause)
  for (const tagId of gives.tagIds) giveTag(db, personId, tagId, cause)
  if (gives.courseId !== null && !isQuiet && findCourse(db, gives.courseId)?.status === 'running') {
    enrol(db, { courseId: gives.courseId, personId, at, causeId, ownAct })
  }
}

/** Until when it is paid for, in the field that the offer keeps for it. */
export function keepRenewal(
  db: Database, personId: number, { gives }: Pick<OfferContent, 'gives'>, paidUntilAt: number | null, cause: Cause,
): void {
  if (gives.renewalFieldId === null || findField(db, gives.renewalFieldId)?.kind !== 'date') return
  setField(db, personId, gives.renewalFieldId, paidUntilAt === null ? null : localOf(paidUntilAt, workspaceOf(db).zone).date, cause)
}

/** Tags and the course go; lists are the person's own and stay. Who has bought the same a second time keeps everything. */
export function takeBackWhatOfferGave(
  db: Database, { personId, offerId }: Pick<PurchaseRow, 'personId' | 'offerId'>, content: OfferContent, cause: Cause & { causeId: number },
): void {
  if (!content.takenBack || owns(db, personId, offerId)) return
  for (const tagId of content.gives.tagIds) takeTag(db, personId, tagId, cause, 'not-theirs')
  if (content.gives.courseId !== null) {
    endEnrolments(db, personId, cause.at, cause.causeId, 'not-theirs', row => row.courseId === content.gives.courseId)
  }
}

/** It is asked-for mail, and says what was paid whatever else they have left. */
export function sendReceipt(
  db: Database, { personId, offerId, offerVersionId }: PurchaseRow, payment: Pick<PaymentRow, 'id' | 'eventId'>, at: number,
): void {
  const offer = findOfferVersion(db, offerVersionId!)!
  insertEmail(db, {
    kind: 'receipt', ownerId: offerId, personId, itemId: 'receipt', occasion: occasionOf(payment.id), messageId: offer.receiptMessageId,
    listId: listOfMail(db, offer.content.gives.listIds), askedFor: 1, causeId: payment.eventId, plannedAt: at,
  })
}
