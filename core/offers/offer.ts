/** An offer: what is sold, for how much, when, to how many, and what buying it gives. */
import type { MessageContent, OwnEmails } from '#core/message/content'
import { sayUnread, unreadIn } from '#core/message/unread'
import { isWritten } from '#core/message/blocks'
import { hasOwnButton } from '#core/message/content'
import { badLinkIn, sayBadLink } from '#core/message/webAddress'
import { missingOfSections, missingOfThanks, type Drawn, type Missing } from '#core/page/content'
import type { FieldGift, PageForm } from '#core/page/form'
import { newTheme } from '#core/page/theme'
import { paragraphs } from '#core/page/text'
import { newThanks, type Thanks } from '#core/page/thanks'
import { MINUTE, type Instant } from '#core/time/zone'
import { isRenewed, type Price } from './price'
import { missingForWaiting, type Waiting } from './waiting'

/** Pressed on the offer's page; what is agreed to is kept, word for word, with everybody who buys. */
export type OfferForm = Pick<PageForm, 'firstName' | 'buttonLabel' | 'consentWording'>

/** What buying gives, and what it takes people out of. */
export interface OfferGives {
  /** The first is the list that the receipt belongs to. */
  listIds: number[]
  tagIds: number[]
  fields: FieldGift[]
  /** They come into this course, as by their own act. */
  courseId: number | null
  /** They leave these. */
  endsCourseIds: number[]
  /** Opened from the buyer's own page. */
  fileId: number | null
  /** A field with a date: until when a renewed price is paid for. */
  renewalFieldId: number | null
}

export interface OfferContent extends Drawn {
  price: Price
  form: OfferForm
  gives: OfferGives
  /** Tags and the course are taken away again when all the money goes back, or when what is renewed has ended. */
  takenBack: boolean
  /** From this instant on; null for since ever. */
  opensAt: Instant | null
  /** Before this instant; null for ever. */
  closesAt: Instant | null
  /** Once it is closed: from this instant on it can be bought again. Null for not again. */
  opensAgainAt: Instant | null
  /** How many can be sold; null for any number. */
  places: number | null
  waiting: Waiting | null
  /** Who went to pay and has not paid after so many hours has given it up. */
  abandonedAfterHours: number
  /** Its own button leads to the buyer's page. */
  receipt: MessageContent
  thanks: Thanks
}

export const MOST_PLACES = 1_000_000
export const MOST_ABANDONED_HOURS = 720

export const newOffer = (headline = '', currency = 'EUR'): OfferContent => ({
  theme: newTheme(),
  sections: [
    { id: 's1', kind: 'headline', name: '', hidden: false, text: headline, under: '' },
    { id: 's2', kind: 'text', name: '', hidden: false, text: paragraphs('') },
    { id: 's3', kind: 'form', name: '', hidden: false, title: '' },
  ],
  meta: { title: '', description: '', pictureId: null },
  price: { currency, amount: 0, paying: 'once', parts: 1 },
  form: { firstName: 'may', buttonLabel: 'Go to the checkout', consentWording: 'You get your receipt and what you buy by email.' },
  gives: { listIds: [], tagIds: [], fields: [], courseId: null, endsCourseIds: [], fileId: null, renewalFieldId: null },
  takenBack: true,
  opensAt: null,
  closesAt: null,
  opensAgainAt: null,
  places: null,
  waiting: null,
  abandonedAfterHours: 24,
  receipt: newReceiptMail(),
  thanks: {
    ...newThanks(), headline: 'It’s yours',
    text: paragraphs('Your receipt is on its way by email, with the link to your own page.'),
  },
})

function newReceiptMail(): MessageContent {
  return {
    workingTitle: 'The receipt',
    subject: [{ type: 'text', text: 'Your receipt' }],
    preview: [{ type: 'text', text: 'With the link to your own page.' }],
    body: { type: 'doc', content: [
      { type: 'paragraph', content: [
        { type: 'text', text: 'Hello ' }, { type: 'placeholder', attrs: { field: 'first_name', fallback: 'and thank you' } },
        { type: 'text', text: ',' },
      ] },
      { type: 'paragraph', content: [{ type: 'text', text: 'this is your receipt. You find what you bought on your own page:' }] },
      { type: 'ownButton', attrs: { label: 'Open my page' } },
    ] },
  }
}

/** What still keeps an offer from being sold, part by part; empty if nothing does. */
export function missingForSelling(content: OfferContent): Missing[] {
  const { price, form, gives, opensAt, closesAt, opensAgainAt, places, waiting, receipt, thanks } = content
  const missing: Missing[] = missingOfSections(content.sections, {
    none: 'Show the price and the button on the page: nobody can buy without them.',
    several: 'The page shows its price and button more than once. Hide or remove all but one.',
  })
  const want = (is: boolean, field: string, problem: string) => {
    if (!is) missing.push({ field, problem })
  }
  want(price.amount > 0, 'price.amount', 'Enter a price.')
  want(price.paying !== 'parts' || price.parts >= 2, 'price.parts', 'Choose at least two payments.')
  want(price.paying !== 'parts' || price.amount >= price.parts, 'price.parts', 'The price is too low for that many payments.')
  want(opensAt === null || closesAt === null || opensAt < closesAt, 'closesAt', 'It would close before it opens.')
  want(opensAgainAt === null || (closesAt !== null && closesAt < opensAgainAt), 'opensAgainAt', 'It opens again only after it has closed.')
  want(places === null || places >= 1, 'places', 'Enter at least one place, or no limit.')
  want(form.buttonLabel.trim() !== '', 'form', 'Write the button text.')
  want(form.consentWording.trim() !== '', 'form', 'Say what buyers agree to. It is kept as their consent.')
  want(gives.listIds.length > 0, 'listIds', 'Choose at least one list. Every email belongs to one, the receipt too.')
  want(gives.renewalFieldId === null || isRenewed(price), 'renewalFieldId', 'Only a monthly or yearly price has a date of renewal.')
  if (waiting) missing.push(...missingForWaiting(waiting))
  const badInReceipt = badLinkIn(receipt)
  want(badInReceipt === null, 'receipt', sayBadLink(badInReceipt ?? ''))
  const badInThanks = badLinkIn(thanks)
  want(badInThanks === null, 'thanks', sayBadLink(badInThanks ?? ''))
  want(isWritten(receipt), 'receipt', 'Write the receipt email: a subject and a few words.')
  want(hasOwnButton(receipt), 'receipt', 'The receipt needs its button, which opens the buyer’s own page.')
  const unread = unreadIn(receipt)
  want(unread === null, 'receipt', sayUnread(unread ?? ''))
  missing.push(...missingOfThanks(thanks, 'thanks'))
  return missing
}

/** Every list and tag that it may give. */
export function marksOfOffer({ gives, waiting }: Pick<OfferContent, 'gives' | 'waiting'>): { listIds: number[], tagIds: number[] } {
  return {
    listIds: [...new Set([...gives.listIds, ...waiting?.listIds ?? []])], tagIds: [...new Set([...gives.tagIds, ...waiting?.tagIds ?? []])],
  }
}

/** Why it can or cannot be bought at an instant. `until`, `from`: the instant at which that ends. */
export type Standing =
  /** `left`: places that can be had; `held`: more that are being paid for. */
  | { is: 'open', until: Instant | null, left: number | null, held: number }
  | { is: 'not-yet', from: Instant }
  /** `again`: when it opens once more. */
  | { is: 'closed', since: Instant, again: Instant | null }
  /** The last ones are being paid for; the first of them may be free again at `freeAt`. */
  | { is: 'being-paid', held: number, freeAt: Instant }
  | { is: 'sold-out' }

/** Places that are sold and not given back, and those held for people who are just paying: until `freeAt` at the earliest. */
export interface Taken { sold: number, held: number, freeAt: Instant | null }

export const NONE_TAKEN: Taken = { sold: 0, held: 0, freeAt: null }

/**
 * Judged at one instant: at `opensAt` itself it is open, at `closesAt` itself
 * it is closed.
 */
export function standingOf({
  opensAt, closesAt, opensAgainAt, places,
}: Pick<OfferContent, 'opensAt' | 'closesAt' | 'opensAgainAt' | 'places'>, now: Instant, { sold, held, freeAt }: Taken): Standing {
  const isAgain = closesAt !== null && opensAgainAt !== null && now >= opensAgainAt
  if (closesAt !== null && now >= closesAt && !isAgain) return { is: 'closed', since: closesAt, again: opensAgainAt }
  if (opensAt !== null && now < opensAt) return { is: 'not-yet', from: opensAt }
  if (places !== null && sold >= places) return { is: 'sold-out' }
  if (places !== null && sold + held >= places) return { is: 'being-paid', held, freeAt: freeAt! }
  return {
    is: 'open', until: isAgain ? null : closesAt, left: places === null ? null : places - sold - held, held: places === null ? 0 : held,
  }
}

/** How long a place and a coupon are held for somebody who has gone to pay. */
export const HELD_FOR = 10 * MINUTE

/**
 * Whoever holds so many unpaid places, or uses of coupons, from one place on the net gets no more: nobody empties a shop with invented
 * addresses.
 */
export const MOST_HELD = 2

/** Those that it sends. */
export const emailsOfOffer = (offer: OfferContent): OwnEmails =>
  ({ receipt: offer.receipt, waiting: offer.waiting?.confirm, opening: offer.waiting?.opening })
