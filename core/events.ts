/** Everything that can happen, by its one name. */

import { sayHeldBack } from '#core/sending/reasons'
import { sayMoney } from '#core/money/money'
import type { Instant } from '#core/time/zone'

export const EVENT_KINDS = [
  'opted-in', 'confirmed', 'not-confirmed', 'file-fetched', 'status-changed', 'joined-list', 'left-list', 'got-tag', 'asked-again',
  'lost-tag', 'zone-changed', 'name-changed', 'country-changed', 'field-changed', 'consent-recorded', 'imported', 'address-changed',
  'merged',
  'paused', 'pause-ended', 'changed-choices', 'took-back', 'back-in-course', 'came-back', 'asked-other-address',
  'entered-segment', 'left-segment', 'became-silent', 'date-arrived', 'reached-score', 'todo-made', 'todo-done', 'noticed', 'replied',
  'visited-page', 'hook-called', 'asked-by-program',
  'rules-cut', 'cascade-cut', 'tag-merged', 'tag-deleted', 'list-merged', 'list-deleted',
  'enrolled', 'way-in-again', 'finished-course', 'left-course', 'skipped-step', 'not-opened', 'not-clicked', 'put-off', 'moved-in-course',
  'stood-still', 'went-on', 'let-in', 'taken-out', 'sent-again', 'began-hold', 'took-way', 'did-step', 'stopped-course',
  'sent', 'held-back', 'withdrawn', 'given-up', 'may-repeat', 'refused-again',
  'opened', 'clicked', 'unsubscribed', 'bounced', 'bounce-undone', 'complained',
  'page-published', 'course-started', 'course-changed', 'course-stood-still', 'course-went-on', 'course-deleted', 'carrier-stopped',
  'carrier-resumed', 'domain-stopped', 'domain-resumed', 'went-live',
  'task-begun', 'consent-rule-changed', 'hours-changed', 'erased',
  'offer-published', 'checkout-started', 'checkout-abandoned', 'bought', 'renewed', 'payment-refused', 'refunded', 'disputed',
  'ending-asked', 'purchase-ended', 'waits-for-offer', 'waits-no-more', 'opening-told', 'said-no-more', 'took-back-no-more',
  'sales-imported',
] as const

export type EventKind = typeof EVENT_KINDS[number]

/**
 * How little is to follow from an event: no course begins with it, or no rule wakes either. Leaving, withdrawing and planning anew follow
 * all the same.
 */
export type Quiet = 'starts-nothing' | 'wakes-nothing'

/** What an event is about; only what applies is set. */
export interface EventAbout {
  personId?: number
  /** Null for what the owner does by hand: nothing in here brought it about. */
  causeId?: number | null
  pageId?: number
  listId?: number
  tagId?: number
  courseId?: number
  outboxId?: number
  stepId?: string
  linkN?: number
  fieldId?: number
  segmentId?: number
  /** The task that did it, to many at once. */
  taskId?: number
  otherId?: number
  offerId?: number
  purchaseId?: number
  /** The house rule that wrote it; where nothing is said, the one that acts just now. */
  ruleId?: number
  hookId?: number
  linkId?: number
  todoId?: number
  /** True if the person did it themselves: what begins by it was asked for. */
  ownAct?: boolean
  /** A short word for a machine and a reader alike: a reason, a status, a judgement. Nothing personal. */
  detail?: string
}

/** What a sentence about an event needs: the names of what it is about. */
export interface SayableEvent {
  kind: EventKind
  pageName: string | null
  listName: string | null
  tagName: string | null
  courseName: string | null
  emailTitle: string | null
  linkLabel: string | null
  fieldName: string | null
  segmentName: string | null
  taskTitle: string | null
  offerName: string | null
  todoText: string | null
  hookName: string | null
  detail: string | null
  /** What the owner wrote beside it, for their own memory. */
  said?: string | null
}

/** An event as a history shows it. */
export interface ToldEvent extends SayableEvent {
  id: number
  at: Instant
  personId: number | null
  /** The event that brought this one about; null if it came from outside. */
  causeId: number | null
  pageId: number | null
  courseId: number | null
  outboxId: number | null
  stepId: string | null
  taskId: number | null
  otherId: number | null
  offerId: number | null
  purchaseId: number | null
  /** The house rule that wrote it. */
  ruleId: number | null
}

const GONE = 'that is gone'
const WAY_IN_REASONS: Record<string, string> = { 'inside': 'is inside already', 'once': 'has been through it, and it is once only', 'entry': 'is not among those who may come in', 'by-date': 'people come into it by a date of theirs',
  'course-stopped': 'you have stopped it, and they join when you resume it',
}
const LEFT_COURSE_REASONS: Record<string, string> = {
  'deleted': 'because you deleted it', 'merged': 'because two records were merged, and one of them had it already',
  'erased': 'because their record was erased', 'own-choice': 'by their own choice', 'left-list': 'with its list',
  'bought': 'because they bought', 'way-out': 'by a way out of it', 'by-course': 'by a course', 'began-anew': 'to begin anew',
  'no-date': 'because their date is not known any more', 'taken-out': 'because you took them out', 'by-rule': 'by a house rule',
  'by-program': 'by a program of yours', 'not-theirs': 'because what they bought is not theirs any more',
}
const JUDGEMENTS: Record<string, string> = {
  reader: '', prefetch: ' (fetched ahead by a mail client)', scanner: ' (followed by a security scanner)',
}

/** What was paid or given back stands in the detail as `4900 EUR`, a word after it. */
function amountIn(detail: string | null, before: string): string {
  const [, amount, currency] = /^(\d+) ([A-Z]{3})\b/.exec(detail ?? '') ?? []
  return amount && currency ? `${before}${sayMoney({ amount: Number(amount), currency })}` : ''
}

/** `7`, `-7 yearly`: days after or before a date. */
function sayOffset(detail: string | null): string {
  const days = Number.parseInt(detail ?? '0', 10)
  return days === 0 ? '' : `, ${Math.abs(days)} ${Math.abs(days) === 1 ? 'day' : 'days'} ${days > 0 ? 'after' : 'before'} it`
}

const WAYS: Record<string, string> = {
  'did': 'because what was waited for happened', 'did-not': 'because what was waited for did not happen in time',
  'otherwise': 'by the way for everybody else',
}

/** An event as a sentence without its subject: "opted in on Sheet kit". */
export function sayEvent(event: SayableEvent): string {
  const {
    pageName, listName, tagName, courseName, emailTitle, linkLabel, fieldName, segmentName, taskTitle, offerName, todoText, hookName,
    detail,
  } = event
  const byHand = detail === 'by-hand' ? ', by hand' : detail === 'by-rule' ? ', by a house rule' : detail === 'by-course'
    ? ', by a course'
    : detail === 'by-program'
      ? ', by a program of yours'
      : detail === 'deleted' ? ', which was deleted' : detail === 'merged' ? ', by merging' : ''
  switch (event.kind) {
    case 'opted-in': return `opted in on ${pageName}${detail === 'passed-on' ? ', which a reader had passed on to them' : ''}`
    case 'confirmed': return `said yes to the opt-in on ${pageName}`
    case 'not-confirmed': return `did not say yes in time to the opt-in on ${pageName}: nothing was given`
    case 'file-fetched': return `fetched the file of ${pageName}${JUDGEMENTS[detail ?? ''] ?? ''}`
    case 'status-changed': return `is now ${detail}`
    case 'joined-list': return `${['by-hand', 'by-program', 'merged'].includes(detail ?? '') ? 'was put on' : 'joined'} the list ${listName}${byHand}`
    case 'left-list': return `${detail === 'by-hand' || detail === 'by-program' ? 'was taken off' : 'left'} the list ${listName}${byHand}`
    case 'got-tag': return `got the tag ${tagName}${byHand}`
    case 'asked-again': return `asked once more for what gives the tag ${tagName}`
    case 'lost-tag': return detail === 'expired'
      ? `lost the tag ${tagName}: it vanishes by itself`
      : detail === 'not-theirs' ? `lost the tag ${tagName}: what gave it is not theirs any more` : `lost the tag ${tagName}${byHand}`
    case 'zone-changed': return `now has another time zone${byHand}`
    case 'country-changed': return `is now in another country${byHand}`
    case 'field-changed': return `${fieldName ?? 'a field that is gone'} ${detail === 'unknown' ? 'is not known any more' : 'changed'}${byHand}`
    case 'address-changed': return `has another address${detail === 'own-choice' ? ', by their own wish' : byHand}`
    case 'merged': return 'you said that somebody else is the same person, and merged the two'
    case 'imported': return detail === 'new' ? 'came in with an import' : 'was in an import'
    case 'consent-recorded': return `consent was recorded${byHand}`
    case 'entered-segment': return `is now in the segment ${segmentName ?? GONE}`
    case 'left-segment': return `is no longer in the segment ${segmentName ?? GONE}`
    case 'hours-changed': return 'you changed the sending hours'
    case 'consent-rule-changed': return 'you changed where consent must be on record'
    case 'task-begun': return `you said for many at once: ${taskTitle}`
    case 'erased': return 'was erased: nothing personal is kept'
    case 'name-changed': return byHand ? `was given another first name${byHand}` : 'gave another first name'
    case 'cascade-cut': return detail === 'too-deep'
      ? 'came twenty courses and house rules deep at one moment: nothing more follows'
      : 'brought about a hundred steps at one moment: nothing more follows'
    case 'rules-cut': return detail === 'circle'
      ? 'came back to a house rule that had acted already: it was cut off there'
      : 'came twenty house rules deep: no more of them follow'
    case 'became-silent': return `has been silent for ${detail} days`
    case 'date-arrived': return `came to the day of ${fieldName ?? 'a field that is gone'}${sayOffset(detail)}`
    case 'reached-score': return `reached ${detail} points`
    case 'todo-made': return `has a to-do of yours: ${todoText}`
    case 'todo-done': return `the to-do about them is done: ${todoText}`
    case 'noticed': return 'you were told about them'
    case 'replied': return `replied${emailTitle ? ` to ${emailTitle}` : ''}${byHand}`
    case 'visited-page': return `came to ${pageName} by a link in ${emailTitle}`
    case 'asked-by-program': return `a program of yours ${detail === 'new' ? 'added them' : `asked ${detail === 'end' ? 'to end' : 'for'} ${courseName}`}`
    case 'hook-called': return `${hookName ?? 'something outside'} called about them`
    case 'tag-merged': return `you merged the tag ${tagName} into another`
    case 'tag-deleted': return `you deleted the tag ${tagName}`
    case 'list-merged': return `you merged the list ${listName} into another`
    case 'list-deleted': return `you deleted the list ${listName}`
    case 'enrolled': return `joined the course ${courseName}`
    case 'way-in-again': return `came to the door of ${courseName} and stays as before: ${WAY_IN_REASONS[detail ?? ''] ?? `is ${detail}`}`
    case 'finished-course': return `has come to the end of ${courseName}`
    case 'paused': return 'asked for a pause of 30 days'
    case 'pause-ended': return detail === 'own-choice' ? 'ended the pause' : 'has come to the end of the pause'
    case 'changed-choices': return 'chose anew what to get'
    case 'took-back': return 'took back what they had just chosen'
    case 'back-in-course': return `is back in ${courseName}, where they stood`
    case 'came-back': return 'asked to get emails again'
    case 'asked-other-address': return 'asked for mail at another address: it is asked there whether that is theirs'
    case 'left-course': return `left the course ${courseName} ${LEFT_COURSE_REASONS[detail ?? ''] ?? `(${detail})`}`
    case 'began-hold': return `waits in ${courseName} until something happens`
    case 'took-way': return `went on in ${courseName} ${WAYS[detail ?? ''] ?? 'by a way of a fork'}`
    case 'did-step': return `came to what ${courseName} does`
    case 'stopped-course': return `was stopped in ${courseName}: a jump goes round without any time passing`
    case 'skipped-step': return event.detail === 'no-date'
      ? `passed over an email of ${courseName} that goes by a date we do not know`
      : `passed over an email of ${courseName} whose moment was past`
    case 'not-opened': return `did not open ${emailTitle} in time`
    case 'put-off': return `waits longer for ${emailTitle}: too many emails that day or week`
    case 'moved-in-course': return detail === 'by-hand'
      ? `was moved to another step of ${courseName}, by hand`
      : `went on to another step of ${courseName}`
    case 'let-in': return `was let into ${courseName}, by hand`
    case 'taken-out': return `was taken out of ${courseName}, by hand`
    case 'sent-again': return `gets ${emailTitle} once more, by hand`
    case 'stood-still': return `stands still in ${courseName}, by hand`
    case 'went-on': return detail === 'new-end' ? `goes on in ${courseName}, which has a new end` : `goes on in ${courseName}, by hand`
    case 'not-clicked': return `did not click in ${emailTitle} in time`
    case 'sent': return detail === 'may-have-arrived'
      ? `may have been sent ${emailTitle}: the mail server never said whether it took it`
      : `was sent ${emailTitle}${byHand}`
    case 'held-back': return `was not sent ${emailTitle}: ${sayHeldBack(detail, listName)}`
    case 'withdrawn': return `will not get ${emailTitle}: it was withdrawn`
    case 'given-up': return `could not be sent ${emailTitle}: it was given up`
    case 'may-repeat': return `may get ${emailTitle} a second time: the line broke while it was handed over`
    case 'opened': return `opened ${emailTitle}${JUDGEMENTS[detail ?? ''] ?? ''}`
    case 'clicked': return `followed ${linkLabel} in ${emailTitle}${JUDGEMENTS[detail ?? ''] ?? ''}`
    case 'unsubscribed': return 'left everything'
    case 'complained': return `was marked as complained by you${event.said ? `: ${event.said}` : ''}`
    case 'refused-again': return `did not get ${emailTitle}, after days of trying`
    case 'bounce-undone': return 'counts as reachable again: the refusal was not about this address'
    case 'bounced': return detail === 'by-hand'
      ? `was marked as bounced by you${event.said ? `: ${event.said}` : ''}`
      : detail === 'added-up' ? `bounced: ${emailTitle} was refused once too often` : `could not be reached: ${emailTitle} came back`
    case 'page-published': return `${pageName} was published`
    case 'course-started': return `${courseName} was started`
    case 'course-stood-still': return `${courseName} was stopped as a whole`
    case 'course-went-on': return `${courseName} goes on`
    case 'course-deleted': return `${courseName} was deleted`
    case 'course-changed': return `${courseName} was changed`
    case 'carrier-stopped': return 'sending stopped: the mail server does not take mail from us'
    case 'domain-stopped': return 'sending to one domain stopped: it refused too many emails in a row'
    case 'domain-resumed': return 'sending to one domain was taken up again'
    case 'carrier-resumed': return 'sending was taken up again'
    case 'went-live': return 'the live workspace was made'
    case 'offer-published': return `the offer ${offerName} was published`
    case 'checkout-started': return `went to pay for ${offerName}`
    case 'checkout-abandoned': return `did not pay for ${offerName} in time`
    case 'bought': return `bought ${offerName}${amountIn(detail, ' for ')}`
    case 'renewed': return `paid for ${offerName} again${amountIn(detail, ': ')}`
    case 'payment-refused': return `could not pay for ${offerName}: the payment was refused`
    case 'refunded': return `got ${amountIn(detail, '') || 'money'} back for ${offerName}${detail?.endsWith(' whole') ? ', which is all of it' : ''}`
    case 'disputed': return `asks their bank for the money of ${offerName} back`
    case 'ending-asked': return `pays no more for ${offerName} from now on`
    case 'purchase-ended': return `does not have ${offerName} any more`
    case 'waits-for-offer': return detail === 'asked'
      ? `pressed the button of the waiting list of ${offerName}, and is asked by email to confirm it`
      : `waits to hear when ${offerName} can be bought`
    case 'waits-no-more': return `does not wait for ${offerName} any more`
    case 'opening-told': return `had waited for ${offerName}, and is told that it can be bought`
    case 'said-no-more': return `wants to hear no more of ${offerName}`
    case 'took-back-no-more': return `may hear of ${offerName} again`
    case 'sales-imported': return 'you brought in past sales'
  }
}

/**
 * Why someone has a mark, from the event that gave it and what brought that about: "on Sheet kit", "follows from the tag binder". Empty if
 * nothing is known.
 */
export function sayOrigin(given: SayableEvent, cause: SayableEvent | undefined): string {
  if (given.detail === 'merged') return 'from the record merged into this one'
  if (cause?.kind === 'task-begun') return 'by hand, to many at once'
  if (given.detail === 'by-hand') return 'by hand'
  if (given.detail === 'by-program') return 'by a program of yours'
  if (!cause) return ''
  switch (cause.kind) {
    case 'opted-in':
    case 'confirmed': return `on ${cause.pageName}`
    case 'asked-by-program': return 'by a program of yours'
    case 'imported': return cause.taskTitle ? `with the ${cause.taskTitle}` : 'with an import'
    case 'bought': return `for buying ${cause.offerName}`
    case 'got-tag': return `follows from the tag ${cause.tagName}`
    case 'asked-again': return `follows from asking once more for what gives the tag ${cause.tagName}`
    case 'lost-tag': return `follows from losing the tag ${cause.tagName}`
    case 'clicked': return `for following ${cause.linkLabel} in ${cause.emailTitle}`
    default: return `because: ${sayEvent(cause)}`
  }
}
