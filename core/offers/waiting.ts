/** Who waits until an offer can be bought: what they read, and what they get. */
import type { BlockNode, MessageContent } from '#core/message/content'
import { sayUnread, unreadIn } from '#core/message/unread'
import { isWritten } from '#core/message/blocks'
import { hasOwnButton, mapBlocks } from '#core/message/content'
import { badLinkIn, sayBadLink } from '#core/message/webAddress'
import { DAY, type Instant } from '#core/time/zone'

/** Who comes while it cannot be bought may ask to hear of it. */
export interface Waiting {
  words: string
  buttonLabel: string
  consentWording: string
  listIds: number[]
  tagIds: number[]
  /** False where who types an address waits at once; whoever has left, paused or bounced is asked all the same. */
  asks: boolean
  /** Its own button leads to the yes. */
  confirm: MessageContent
  /** Goes once it can be bought; its own button leads to the offer. */
  opening: MessageContent
  /** Where places are few: so many hours after hearing of it, those who have not bought make room for the next. */
  turnHours: number
}

export const MOST_TURN_HOURS = 720

/** How many days (24 hours each) people have to confirm. */
export const CONFIRM_DAYS = 7

const says = (text: string): BlockNode => ({ type: 'paragraph', content: [{ type: 'text', text }] })

export const newWaiting = (): Waiting => ({
  words: 'Leave your address and hear about it first.',
  buttonLabel: 'Tell me when it opens',
  consentWording: 'You get an email when this can be bought. You can leave at any time.',
  listIds: [],
  tagIds: [],
  asks: true,
  confirm: {
    workingTitle: 'Waiting list: please confirm',
    subject: [{ type: 'text', text: 'Shall we tell you when it opens?' }],
    preview: [{ type: 'text', text: 'One click, and you are on the waiting list.' }],
    body: { type: 'doc', content: [
      says('Hello,'),
      says('someone added this address to our waiting list. Please confirm that it was you.'),
      { type: 'ownButton', attrs: { label: 'Yes, tell me' } },
      says('If it was not you, you don’t need to do anything.'),
    ] },
  },
  opening: {
    workingTitle: 'Waiting list: it is open',
    subject: [{ type: 'text', text: 'It can be bought now' }],
    preview: [{ type: 'text', text: 'You asked to hear about it first.' }],
    body: { type: 'doc', content: [
      { type: 'paragraph', content: [
        { type: 'text', text: 'Hello ' },
        { type: 'placeholder', attrs: { field: 'first_name', fallback: 'and thank you for waiting' } },
        { type: 'text', text: ',' },
      ] },
      says('you asked to hear when this can be bought. Now you can buy it:'),
      { type: 'ownButton', attrs: { label: 'Have a look' } },
      says('You get only this one email from the waiting list.'),
    ] },
  },
  turnHours: 24,
})

/** What still keeps it from being shown, all under one field but the emails. */
export function missingForWaiting(waiting: Waiting): { field: string, problem: string }[] {
  const { words, buttonLabel, consentWording, listIds, confirm, opening } = waiting
  const missing: { field: string, problem: string }[] = []
  const want = (is: boolean, field: string, problem: string) => {
    if (!is) missing.push({ field, problem })
  }
  want(
    [words, buttonLabel, consentWording].every(text => text.trim() !== ''), 'waiting',
    'Write the text, the button and what people agree to.',
  )
  want(listIds.length > 0, 'waiting', 'Choose a list for people who wait. Every email belongs to one.')
  const mails = [['waiting.confirm', confirm, 'it opens the confirmation'], ['waiting.opening', opening, 'it opens the offer']] as const
  for (const [field, mail, leads] of mails) {
    const bad = badLinkIn(mail)
    want(bad === null, field, sayBadLink(bad ?? ''))
    const unread = unreadIn(mail)
    want(unread === null, field, sayUnread(unread ?? ''))
    want(isWritten(mail), field, 'Write this email: a subject and a few words.')
    want(hasOwnButton(mail), field, `This email needs its button: ${leads}.`)
  }
  return missing
}

/** The email as it goes: its own button is a link like any other, so that following it counts. */
export function openingMail({ opening }: Pick<Waiting, 'opening'>, url: string): MessageContent {
  return {
    ...opening,
    body: mapBlocks(opening.body, block =>
      block.type === 'ownButton' ? { type: 'button', attrs: { label: block.attrs.label, url, tagId: null } } : block),
  }
}

/** The last instant at which the yes to a wait counts. */
export const confirmUntil = (askedAt: Instant): Instant => askedAt + CONFIRM_DAYS * DAY
