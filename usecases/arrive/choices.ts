/** What readers choose for themselves, by the signed address of an email of theirs and without signing in. */
import type { EventKind } from '#core/events'
import { CANNOT_REACH, checkAddress, needsUtf8Server } from '#core/people/address'
import { LEAVING_ANSWERS, type LeavingAnswer } from '#core/people/leaving'
import { isGone } from '#core/people/status'
import type { MessageContent } from '#core/message/content'
import type { Choices } from '#core/page/choices'
import { DAY } from '#core/time/zone'
import { takesUtf8 } from '#data/carrier'
import {
  endAddressChange, findAddressChange, insertAddressChange, insertLeavingAnswer, markAddressChanged, pauseOf, wasAnswered,
} from '#data/choices'
import { insertConsent } from '#data/consents'
import { findCourse } from '#data/courses'
import { findEnrolment } from '#data/enrolments'
import { findPersonKey } from '#data/erasing'
import { appendEvent, latestKindOf } from '#data/events'
import { allLists, findList, interestsOfPerson, listsOfPerson } from '#data/marks'
import { offerNames } from '#data/offers'
import { saidNoMore } from '#data/purchases'
import { findEmail, insertEmail, plannedSince, type OutboxRow } from '#data/outbox'
import { findPerson, findPersonByKey } from '#data/people'
import { insertFormerAddress, setAddress } from '#data/sameness'
import type { Person } from '#core/views/people'
import { occasionOf } from '#core/sending/occasion'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { aboutEmail } from '../inner/aboutEmail'
import { withdrawConfirmationRequests } from '../inner/facts/confirmationRequests'
import { beginPause, endPause } from '../inner/facts/pauses'
import { changeStatus, giveTag, joinList, leaveList, takeTag } from '../inner/facts/marks'
import { soldBy } from '../inner/sold'
import { keepWording, makeWordings, type Wording } from '../inner/wordings'
import { InputProblem, NotNow, NotThere } from '../problem'
import { followedBy, takeBackFollowed } from '../reading/click'
import { sayNoMore, takeBackNoMore } from '../offers/noMore'
import { passOnUrl } from './passOn'
import { canTakeBack, keepUndo } from './takeBack'

const PAUSE = 30 * DAY
/** How long a new address can be confirmed. */
const ADDRESS_WITHIN = 7 * DAY
/** Nobody's mailbox can be filled with questions whether it is somebody's. */
const MOST_ADDRESSES_A_DAY = 3

function emailAndPerson(context: WorkspaceContext, outboxId: number): { email: OutboxRow, person: Person } {
  const email = findEmail(context.db, outboxId)
  const person = email && findPerson(context.db, email.personId)
  if (!person) throw new NotThere('This email is no longer known.')
  return { email, person }
}

const LEAVING: readonly EventKind[] = ['unsubscribed', 'left-list', 'left-course']
const RETURNING: readonly EventKind[] = ['came-back', 'joined-list', 'took-back']

/** What the choices page shows; reading it changes nothing. */
export function choicesOf(context: WorkspaceContext, outboxId: number): Choices {
  const { db } = context
  const { email, person } = emailAndPerson(context, outboxId)
  const course = email.enrolmentId === null ? undefined : findCourse(db, email.ownerId)
  const theirs = listsOfPerson(db, person.id)
  const offered = allLists(db).filter(list => list.offered === 1 && !theirs.some(({ id }) => id === list.id))
  return {
    address: person.address,
    gone: isGone(person.status),
    course: course ? {
      name: course.published?.publicName || findList(db, email.listId)!.publicName,
      inside: findEnrolment(db, email.enrolmentId!)?.status === 'open',
    } : null,
    lists: [...theirs.map(list => ({ ...list, joined: list.leftAt === null })), ...offered.map(list => ({ ...list, joined: false }))]
      .map(({ id, publicName, description, joined }) => ({ id, name: publicName, description, joined })).sort((a, b) => a.id - b.id),
    interests: interestsOfPerson(db, person.id),
    offers: offersTold(context, email, person.id),
    pausedUntilAt: pauseOf(db, person.id)?.untilAt ?? null,
    passOnUrl: passOnUrl(context, person.id),
    canTakeBack: canTakeBack(db, person.id, context.clock.now()),
    followed: followedBy(context, person.id),
    // Who has come back is not asked why they went.
    asksWhy: email.leftAt !== null && !wasAnswered(db, outboxId) && LEAVING.includes(latestKindOf(db, person.id, [
      ...LEAVING, ...RETURNING
    ])!),
  }
}

/** What the email sells, and whatever else they want to hear no more of. */
function offersTold(context: WorkspaceContext, email: OutboxRow, personId: number): Choices['offers'] {
  const noMore = new Set(saidNoMore(context.db, personId).map(({ offerId }) => offerId))
  const sold = soldBy(context, email.messageId).map(({ id }) => id)
  return offerNames(context.db).filter(({ id }) => noMore.has(id) || sold.includes(id))
    .map(({ id, name }) => ({ id, name, noMore: noMore.has(id) }))
}

/** They want to hear no more of an offer, or may hear of it again; only of those that their page names. */
export function chooseOffer(context: WorkspaceContext, outboxId: number, offerId: number, wants: 'no-more' | 'again'): void {
  const { email, person } = emailAndPerson(context, outboxId)
  if (!offersTold(context, email, person.id).some(({ id }) => id === offerId)) {
    throw new InputProblem([{ field: 'do', problem: 'This is no longer offered here.' }])
  }
  const causeId = email.sentEventId ?? email.causeId
  if (wants === 'no-more') sayNoMore(context, person.id, offerId, causeId)
  else takeBackNoMore(context, person.id, offerId, causeId)
  context.wake()
}

/** What following one of their links brought is taken back. */
export function takeBackClick(context: WorkspaceContext, outboxId: number, eventId: number): void {
  takeBackFollowed(context, emailAndPerson(context, outboxId).person.id, eventId)
}

/** Lists and interests as they are to be. Only those that the page offers change. */
export function choose(context: WorkspaceContext, outboxId: number, wanted: { listIds: number[], tagIds: number[] }): void {
  const { db } = context
  transact(context, () => {
    const { email, person } = emailAndPerson(context, outboxId)
    if (isGone(person.status)) throw new NotNow('You get no emails from us. Click “Come back” first.')
    const { lists, interests } = choicesOf(context, outboxId)
    const at = context.clock.now()
    const changes = lists.some(list => list.joined !== wanted.listIds.includes(list.id))
      || interests.some(tag => tag.has !== wanted.tagIds.includes(tag.id))
    if (!changes) return
    keepUndo(db, person.id, outboxId, at)
    const causeId = appendEvent(db, 'changed-choices', at, aboutEmail(email))
    const cause = { at, causeId, ownAct: true }
    for (const { id, joined, name, description } of lists) {
      if (wanted.listIds.includes(id) && !joined) {
        joinList(db, person.id, id, cause)
        // Ticking a list agrees to what stands beside it.
        insertConsent(db, {
          personId: person.id, eventId: causeId, pageVersionId: null, origin: 'on their choices page',
          wording: [name, description].filter(Boolean).join(': '), at, confirmedAt: null, ip: null, zone: null,
        })
      }
      if (!wanted.listIds.includes(id) && joined) leaveList(db, person.id, id, cause)
    }
    for (const { id, has } of interests) {
      if (wanted.tagIds.includes(id) && !has) giveTag(db, person.id, id, cause)
      if (!wanted.tagIds.includes(id) && has) takeTag(db, person.id, id, cause)
    }
  })
  context.wake()
}

/** Thirty days (24 hours) without mail, or an end to them. */
export function pause(context: WorkspaceContext, outboxId: number, on: boolean): void {
  const { db } = context
  transact(context, () => {
    const { email, person } = emailAndPerson(context, outboxId)
    const at = context.clock.now()
    if (!on) {
      endPause(db, person.id, at, email.sentEventId ?? email.causeId, 'own-choice')
      return
    }
    if (isGone(person.status) || pauseOf(db, person.id)) return
    keepUndo(db, person.id, outboxId, at)
    beginPause(db, person.id, { at, untilAt: at + PAUSE }, aboutEmail(email))
  })
  context.wake()
}

/** Who left everything, or could not be reached, wants mail again. Lists they left one by one stay left. */
export function comeBack(context: WorkspaceContext, outboxId: number): void {
  const { db } = context
  transact(context, () => {
    const { email, person } = emailAndPerson(context, outboxId)
    if (!isGone(person.status)) return
    const at = context.clock.now()
    const causeId = appendEvent(db, 'came-back', at, aboutEmail(email))
    changeStatus(db, person.id, 'came-back', { at, causeId, ownAct: true })
  })
  context.wake()
}

/** Counted, and nothing else: the first answer about an email is kept. */
export function answerWhy(context: WorkspaceContext, outboxId: number, answer: string): void {
  const known = LEAVING_ANSWERS.find(one => one === answer)
  if (!known) throw new InputProblem([{ field: 'why', problem: 'This answer is not one of those that can be chosen.' }])
  transact(context, () => {
    const { email } = emailAndPerson(context, outboxId)
    if (email.leftAt !== null) insertLeavingAnswer(context.db, outboxId, known satisfies LeavingAnswer, context.clock.now())
  })
}

const ASKING: MessageContent = {
  workingTitle: 'Is this address yours?',
  subject: [{ type: 'text', text: 'Should your emails come here from now on?' }],
  preview: [{ type: 'text', text: 'One click, and they do.' }],
  body: { type: 'doc', content: [
    { type: 'paragraph', content: [
      { type: 'text', text: 'Hello ' }, { type: 'placeholder', attrs: { field: 'first_name', fallback: 'there' } },
      { type: 'text', text: ',' },
    ] },
    { type: 'paragraph', content: [{
      type: 'text',
      text: 'someone who gets our emails at another address would like to get them here. If that was you, click the button. If not, do nothing, and you will get nothing.',
    }] },
    { type: 'ownButton', attrs: { label: 'Yes, send it here' } },
  ] },
}

/** Asks at the new address whether it is theirs; until that is said, nothing changes. */
export async function askOtherAddress(context: WorkspaceContext, outboxId: number, typed: string): Promise<void> {
  const { db } = context
  const checked = checkAddress(typed)
  if (!checked.ok) throw new InputProblem([{ field: 'address', problem: checked.problem }])
  if (needsUtf8Server(checked.address.shown) && takesUtf8(context.db) === false) {
    throw new InputProblem([{ field: 'address', problem: CANNOT_REACH }])
  }
  const wording: Wording = { of: { kind: 'address', ownerId: 0, itemId: 'asking' }, content: ASKING }
  const made = await makeWordings(context, [wording])
  transact(context, () => {
    const { email, person } = emailAndPerson(context, outboxId)
    const at = context.clock.now()
    const { shown: address, key: addressKey } = checked.address
    if (addressKey === findPersonKey(db, person.id)) {
      throw new InputProblem([{ field: 'address', problem: 'Your emails already go there.' }])
    }
    if (plannedSince(db, person.id, 'address', at - DAY) >= MOST_ADDRESSES_A_DAY) throw new InputProblem([{
      field: 'address',
      problem: 'You have asked for this three times since yesterday. Please check the new mailbox, or try again tomorrow.',
    }])
    const causeId = appendEvent(db, 'asked-other-address', at, aboutEmail(email), { address })
    const id = insertAddressChange(db, { personId: person.id, address, addressKey, askedAt: at, expiresAt: at + ADDRESS_WITHIN })
    insertEmail(db, {
      kind: 'address', ownerId: 0, personId: person.id, itemId: 'asking', occasion: occasionOf(id),
      messageId: keepWording(context, wording, made, at),
      listId: email.listId, askedFor: 1, causeId, plannedAt: at,
    })
  })
  context.wake()
}

export type AddressOutcome = 'can-be' | 'done' | 'too-late' | 'taken' | 'gone'

/** What saying yes at the new address would come to. */
export function addressOutcome(context: WorkspaceContext, id: number): { outcome: AddressOutcome, address: string } {
  const { db } = context
  const change = findAddressChange(db, id)
  const person = change && findPerson(db, change.personId)
  if (!change || !person) return { outcome: 'gone', address: '' }
  const other = findPersonByKey(db, change.addressKey)
  const outcome = change.doneAt !== null
    ? 'done'
    : context.clock.now() > change.expiresAt ? 'too-late' : other && other.id !== person.id ? 'taken' : 'can-be'
  return { outcome, address: change.address }
}

export function readAddressToken(context: WorkspaceContext, token: string): number {
  const what = context.signer.read('address', token)
  if (what === null) {
    throw new NotThere('This link is not complete. Please use the button in the email itself.')
  }
  return Number(what)
}

/** It is not theirs, or they do not want it: the button does nothing any more. */
export function refuseAddress(context: WorkspaceContext, id: number): void {
  const { db } = context
  transact(context, () => {
    const change = findAddressChange(db, id)
    if (change && change.doneAt === null) endAddressChange(db, id, context.clock.now())
  })
}

/** From now on their mail goes to the new address; what waits goes there, too. */
export function confirmAddress(context: WorkspaceContext, id: number): void {
  const { db } = context
  transact(context, () => {
    if (addressOutcome(context, id).outcome !== 'can-be') return
    const { personId, address, addressKey } = findAddressChange(db, id)!
    const person = findPerson(db, personId)!
    const at = context.clock.now()
    const eventId = appendEvent(db, 'address-changed', at, { personId, detail: 'own-choice' }, { from: person.address, to: address })
    insertFormerAddress(db, { personId, address: person.address, addressKey: findPersonKey(db, personId), untilAt: at, eventId })
    // What was asked at the old address can only be answered there.
    withdrawConfirmationRequests(db, personId, at, eventId, 'unconfirmed')
    setAddress(db, personId, { shown: address, key: addressKey })
    markAddressChanged(db, id, at)
    // An address that did not take mail is theirs no more.
    if (person.status === 'bounced') changeStatus(db, personId, 'came-back', { at, causeId: eventId, ownAct: true })
  })
  context.wake()
}
