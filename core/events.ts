/** Everything that can happen, by its one name. */

import { sayHeldBack } from '#core/sending/reasons'
import { sayMoney } from '#core/money/money'
import type { Instant } from '#core/time/zone'

export const EVENT_KINDS = [
  'opted-in', 'confirmed', 'not-confirmed', 'file-fetched', 'status-changed', 'joined-list', 'left-list', 'got-tag', 'asked-again',
  'lost-tag', 'zone-changed', 'name-changed', 'country-changed', 'field-changed', 'consent-recorded', 'imported', 'address-changed',
  'merged',
  'paused', 'pause-ended', 'changed-choices', 'took-back', 'back-in-course', 'came-back', 'asked-other-address',
  'entered-segment', 'left-segment', 'became-silent', 'date-arrived', 'reached-score', 'todo-made', 'todo-done', 'todo-reopened', 'noticed',
  'replied',
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
  'sales-imported', 'summary-written', 'test-sent', 'sender-code-asked', 'sender-confirmed', 'mail-key-made',
  'broadcast-scheduled', 'broadcast-taken-back', 'broadcast-paused', 'broadcast-resumed', 'broadcast-stopped',
  'sending-held', 'sending-released',
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
  broadcastId?: number
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
  broadcastName: string | null
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

/** What a thing is called, told apart from the words around it. */
const quoted = (name: string | null): string => name === null ? 'something deleted' : `“${name}”`

const WAY_IN_REASONS: Record<string, string> = {
  'inside': 'they are already in it', 'once': 'they have been in it, and people can take it only once',
  'entry': 'they do not fit its conditions for joining', 'by-date': 'people join it on a date of their own',
  'course-stopped': 'you stopped it, and they join when you resume it',
}
const LEFT_COURSE_REASONS: Record<string, string> = {
  'deleted': 'because you deleted it', 'merged': 'because two records were merged and one of them was already in it',
  'erased': 'because their record was erased', 'own-choice': 'by choice', 'left-list': 'because they left its list',
  'bought': 'because of a purchase', 'way-out': 'by one of its ways out', 'by-course': 'because of another course',
  'began-anew': 'to start it again', 'no-date': 'because their date is no longer known', 'taken-out': 'because you removed them',
  'by-rule': 'because of a house rule', 'by-program': 'because one of your programs asked for it',
  'not-theirs': 'because what they bought has ended',
}
const JUDGEMENTS: Record<string, string> = {
  reader: '', prefetch: ' (fetched in advance by a mail app)', scanner: ' (opened by a security scanner)',
}

/** What was paid or given back stands in the detail as `4900 EUR`, a word after it. */
function amountIn(detail: string | null, before: string): string {
  const [, amount, currency] = /^(\d+) ([A-Z]{3})\b/.exec(detail ?? '') ?? []
  return amount && currency ? `${before}${sayMoney({ amount: Number(amount), currency })}` : ''
}

/** Who did it, where it was not the person themselves, or what became of the thing. */
const BY: Record<string, string> = {
  'by-hand': ', by hand', 'by-rule': ', by a house rule', 'by-course': ', by a course', 'by-program': ', by one of your programs',
  'deleted': ', which was deleted', 'merged': ', by merging',
}

/** `7`, `-7 yearly`: days after or before a date. */
function sayOffset(detail: string | null): string {
  const days = Number.parseInt(detail ?? '0', 10)
  return days === 0 ? '' : `the day ${Math.abs(days)} ${Math.abs(days) === 1 ? 'day' : 'days'} ${days > 0 ? 'after' : 'before'} `
}

const PATHS: Record<string, string> = {
  'did': 'because what they waited for happened', 'did-not': 'because what they waited for did not happen in time',
  'otherwise': 'on the path for everyone else',
}

/** An event as a sentence without its subject: "opted in on “Sheet kit”". */
export function sayEvent(event: SayableEvent): string {
  const { taskTitle, todoText, hookName, detail, said } = event
  const [page, list, tag, course, email, link, segment, offer, broadcast] = [
    event.pageName, event.listName, event.tagName, event.courseName, event.emailTitle, event.linkLabel, event.segmentName, event.offerName,
    event.broadcastName,
  ].map(quoted)
  const field = event.fieldName === null ? 'a deleted field' : quoted(event.fieldName)
  const byHand = BY[detail ?? ''] ?? ''
  switch (event.kind) {
    case 'opted-in': return `opted in on ${page}${detail === 'passed-on' ? ', forwarded to them by a reader' : ''}`
    case 'confirmed': return `confirmed the opt-in on ${page}`
    case 'not-confirmed': return `did not confirm the opt-in on ${page} in time, so nothing was added`
    case 'file-fetched': return `downloaded the file from ${page}${JUDGEMENTS[detail ?? ''] ?? ''}`
    case 'status-changed': return `is now ${detail}`
    case 'joined-list':
      return `${['by-hand', 'by-program', 'merged'].includes(detail ?? '') ? 'was added to' : 'joined'} the list ${list}${byHand}`
    case 'left-list': return `${detail === 'by-hand' || detail === 'by-program' ? 'was removed from' : 'left'} the list ${list}${byHand}`
    case 'got-tag': return `got the tag ${tag}${byHand}`
    case 'asked-again': return `got the tag again: ${tag}`
    case 'lost-tag': return `lost the tag ${tag}${
      detail === 'expired' ? ', which expired' : detail === 'not-theirs' ? ', because the purchase that gave it has ended' : byHand}`
    case 'zone-changed': return `has a new time zone${byHand}`
    case 'country-changed': return `has a new country${byHand}`
    case 'field-changed': return `${field} ${detail === 'unknown' ? 'is no longer known' : 'changed'}${byHand}`
    case 'address-changed': return `has a new address${detail === 'own-choice' ? ', at their own request' : byHand}`
    case 'merged': return 'you merged another record of this person into this one'
    case 'imported': return detail === 'new' ? 'was added by an import' : 'was updated by an import'
    case 'consent-recorded': return `consent was recorded${byHand}`
    case 'entered-segment': return `entered the segment ${segment}`
    case 'left-segment': return `left the segment ${segment}`
    case 'hours-changed': return 'you changed the sending hours'
    case 'consent-rule-changed': return 'you changed where consent must be on record'
    case 'task-begun': return `you made a bulk change: ${taskTitle}`
    case 'erased': return 'was erased, and nothing personal is kept'
    case 'name-changed': return byHand ? `was given a new first name${byHand}` : 'gave a new first name'
    case 'cascade-cut': return detail === 'too-deep'
      ? 'reached the limit of twenty courses and house rules in a row, so nothing more follows'
      : 'reached the limit of a hundred steps at one moment, so nothing more follows'
    case 'rules-cut': return detail === 'circle'
      ? 'came back to a house rule that had already acted, so it stopped there'
      : 'reached the limit of twenty house rules in a row, so no more follow'
    case 'became-silent': return `has not opened or clicked anything for ${detail} days`
    case 'date-arrived': return `reached ${sayOffset(detail)}${field}`
    case 'reached-score': return `reached ${detail} points`
    case 'todo-made': return `you have a to-do about them: ${todoText}`
    case 'todo-done': return `the to-do about them is done: ${todoText}`
    case 'todo-reopened': return `the to-do about them is open again: ${todoText}`
    case 'noticed': return 'you were notified about them'
    case 'replied': return `replied${event.emailTitle ? ` to ${email}` : ''}${byHand}`
    case 'visited-page': return `visited ${page} from a link in ${email}`
    case 'asked-by-program': return `one of your programs ${
      detail === 'new' ? 'added them' : `asked to ${detail === 'end' ? 'end' : 'start'} ${course} for them`}`
    case 'hook-called': return `${hookName ?? 'something outside'} called about them`
    case 'tag-merged': return `you merged the tag ${tag} into another`
    case 'tag-deleted': return `you deleted the tag ${tag}`
    case 'list-merged': return `you merged the list ${list} into another`
    case 'list-deleted': return `you deleted the list ${list}`
    case 'enrolled': return `joined the course ${course}`
    case 'way-in-again': return `did not join ${course}: ${WAY_IN_REASONS[detail ?? ''] ?? detail}`
    case 'finished-course': return `finished ${course}`
    case 'paused': return 'paused all emails for 30 days'
    case 'pause-ended': return detail === 'own-choice' ? 'ended the pause' : 'reached the end of the pause'
    case 'changed-choices': return 'changed what they want to get'
    case 'took-back': return 'undid the change they had just made'
    case 'back-in-course': return `is back in ${course}, at the same step${detail === 'by-hand' ? ', by hand' : ''}`
    case 'came-back': return 'asked to get emails again'
    case 'asked-other-address': return 'asked to move to another address, and was sent an email there to confirm it'
    case 'left-course': return `left the course ${course} ${LEFT_COURSE_REASONS[detail ?? ''] ?? `(${detail})`}`
    case 'began-hold': return `is waiting in ${course} for something to happen`
    case 'took-way': return `continued in ${course} ${PATHS[detail ?? ''] ?? 'on one path of a fork'}`
    case 'did-step': return `reached an action in ${course}`
    case 'stopped-course': return `stopped in ${course}: it would jump in a circle with no time passing`
    case 'skipped-step':
      return `skipped an email of ${course}, because its ${detail === 'no-date' ? 'date is not known' : 'time had passed'}`
    case 'not-opened': return `did not open ${email} in time`
    case 'put-off': return `will get ${email} later: too many emails that day or week`
    case 'moved-in-course': return detail === 'by-hand'
      ? `was moved to another step of ${course}, by hand`
      : `continued at another step of ${course}`
    case 'let-in': return `was added to ${course}, by hand`
    case 'taken-out': return `was removed from ${course}, by hand`
    case 'sent-again': return `will get ${email} again, by hand`
    case 'stood-still': return `was paused in ${course}, by hand`
    case 'went-on': return detail === 'new-end' ? `continued in ${course}, which has a new end` : `was resumed in ${course}, by hand`
    case 'not-clicked': return `did not click in ${email} in time`
    case 'sent': return detail === 'may-have-arrived'
      ? `may have been sent ${email}: the mail server did not say whether it took it`
      : `was sent ${email}${byHand}`
    case 'held-back': return `was not sent ${email}: ${sayHeldBack(detail, event.listName)}`
    case 'withdrawn': return `will not get ${email}, which was withdrawn`
    case 'given-up': return `could not be sent ${email}`
    case 'may-repeat': return `may get ${email} twice: the connection broke while it was being sent`
    case 'opened': return `opened ${email}${JUDGEMENTS[detail ?? ''] ?? ''}`
    case 'clicked': return `clicked ${link} in the email ${email}${JUDGEMENTS[detail ?? ''] ?? ''}`
    case 'unsubscribed': return 'unsubscribed from everything'
    case 'complained': return `you marked them as complained${said ? `: ${said}` : ''}`
    case 'refused-again': return `did not get ${email} after days of trying`
    case 'bounce-undone': return 'can be reached again: the bounce was not about this address'
    case 'bounced': return detail === 'by-hand'
      ? `you marked them as bounced${said ? `: ${said}` : ''}`
      : `bounced: ${email} ${detail === 'added-up' ? 'was refused too often' : 'came back'}`
    case 'page-published': return `${page} was published`
    case 'course-started': return `${course} was started`
    case 'course-stood-still': return `${course} was stopped`
    case 'course-went-on': return `${course} was resumed`
    case 'course-deleted': return `${course} was deleted`
    case 'course-changed': return `${course} was changed`
    case 'carrier-stopped': return 'sending stopped: the mail server does not take our emails'
    case 'domain-stopped': return 'sending to one domain stopped after too many refused emails in a row'
    case 'domain-resumed': return 'sending to one domain resumed'
    case 'carrier-resumed': return 'sending resumed'
    case 'went-live': return 'the live workspace was made'
    case 'offer-published': return `the offer ${offer} was published`
    case 'checkout-started': return `went to pay for ${offer}`
    case 'checkout-abandoned': return `did not finish paying for ${offer}`
    case 'bought': return `bought ${offer}${amountIn(detail, ' for ')}`
    case 'renewed': return `paid for ${offer} again${amountIn(detail, ': ')}`
    case 'payment-refused': return `could not pay for ${offer}: the payment was refused`
    case 'refunded':
      return `was refunded ${amountIn(detail, '') || 'money'} for ${offer}${detail?.endsWith(' whole') ? ', the full amount' : ''}`
    case 'disputed': return `disputed the payment for ${offer} with their bank`
    case 'ending-asked': return `cancelled all further payments for ${offer}`
    case 'purchase-ended': return `no longer has ${offer}`
    case 'waits-for-offer': return detail === 'asked'
      ? `asked to join the waiting list of ${offer}, and was sent an email to confirm it`
      : `joined the waiting list of ${offer}`
    case 'waits-no-more': return `left the waiting list of ${offer}`
    case 'opening-told': return `was told that ${offer} can be bought`
    case 'said-no-more': return `asked to hear no more about ${offer}`
    case 'took-back-no-more': return `can hear about ${offer} again`
    case 'sales-imported': return 'you imported past sales'
    case 'summary-written': return 'your weekly summary was written'
    case 'test-sent': return 'you sent a test of an email'
    case 'sender-code-asked': return 'a code went to the address of a sender'
    case 'sender-confirmed': return 'you confirmed the address of a sender'
    case 'mail-key-made': return 'you made a key that signs emails'
    case 'broadcast-scheduled': return `${broadcast} was scheduled`
    case 'broadcast-taken-back': return `${broadcast} was cancelled before it left`
    case 'broadcast-paused': return `${broadcast} was paused`
    case 'broadcast-resumed': return `${broadcast} was resumed`
    case 'sending-held': return 'you stopped all sending'
    case 'sending-released': return 'you released all sending'
    case 'broadcast-stopped': return `${broadcast} was stopped`
  }
}

/**
 * Why someone has a mark, from the event that gave it and what brought that about: "on “Sheet kit”", "because of the tag “binder”". Empty
 * if nothing is known.
 */
export function sayOrigin(given: SayableEvent, cause: SayableEvent | undefined): string {
  if (given.detail === 'merged') return 'from the record merged into this one'
  if (cause?.kind === 'task-begun') return 'by hand, as a bulk change'
  if (given.detail === 'by-hand') return 'by hand'
  if (given.detail === 'by-program') return 'by one of your programs'
  if (!cause) return ''
  switch (cause.kind) {
    case 'opted-in':
    case 'confirmed': return `on ${quoted(cause.pageName)}`
    case 'asked-by-program': return 'by one of your programs'
    case 'imported': return cause.taskTitle ? `by the ${cause.taskTitle}` : 'by an import'
    case 'bought': return `for buying ${quoted(cause.offerName)}`
    case 'got-tag': return `because of the tag ${quoted(cause.tagName)}`
    case 'asked-again': return `because they got the tag again: ${quoted(cause.tagName)}`
    case 'lost-tag': return `because they lost the tag ${quoted(cause.tagName)}`
    case 'clicked': return `for clicking ${quoted(cause.linkLabel)} in ${quoted(cause.emailTitle)}`
    default: return `because: ${sayEvent(cause)}`
  }
}
