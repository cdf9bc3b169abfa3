/** What an opt-in page says, asks and gives. */
import { hasOwnButton, isWritten } from '#core/message/content'
import { newConfirming, type Confirming } from './confirm'
import type { Promised } from './promise'
import { paragraphs, type PageText } from './text'

export interface PageContent {
  headline: string
  text: PageText
  /** Email is always asked; the first name only if this says so. */
  asksFirstName: boolean
  firstNameRequired: boolean
  buttonLabel: string
  /** Stands under the button and is kept, word for word, with everybody who presses it. */
  consentWording: string
  listIds: number[]
  tagIds: number[]
  confirming: Confirming
  promised: Promised | null
  thanksHeadline: string
  thanksText: PageText
}

export const newPage = (): PageContent => ({
  headline: '',
  text: paragraphs(''),
  asksFirstName: true,
  firstNameRequired: false,
  buttonLabel: 'Send it to me',
  consentWording: 'You get emails from us and can leave with one press at any time.',
  listIds: [],
  tagIds: [],
  confirming: newConfirming(),
  promised: null,
  thanksHeadline: 'Thank you',
  thanksText: paragraphs('The first email is on its way. Please look in your inbox.'),
})

/** A page as it was stored by any version of ours. What came later stands as those who made the page had it: nobody was asked to confirm. */
export function pageFrom(stored: Partial<PageContent>): PageContent {
  const page = newPage()
  return { ...page, confirming: { ...page.confirming, who: 'nobody' }, ...stored }
}

export interface Missing { field: keyof PageContent, problem: string }

/** What still keeps a page from being published, field by field; empty if nothing does. */
export function missingForPublishing(content: PageContent): Missing[] {
  const missing: Missing[] = []
  const want = (is: boolean, field: keyof PageContent, problem: string) => {
    if (!is) missing.push({ field, problem })
  }
  const { confirming, promised } = content
  want(content.headline.trim() !== '', 'headline', 'Write a headline: it is what visitors see first.')
  want(content.buttonLabel.trim() !== '', 'buttonLabel', 'Write what the button says, like “Send me the kit”.')
  want(content.consentWording.trim() !== '', 'consentWording', 'Say what people agree to: it is kept as their consent.')
  want(content.listIds.length > 0, 'listIds', 'Choose at least one list: every email belongs to one.')
  want(content.thanksHeadline.trim() !== '', 'thanksHeadline', 'Write what people read after the button.')
  if (confirming.who !== 'nobody') {
    want(isWritten(confirming.mail), 'confirming', 'Write the email that asks to confirm: a subject and a few words.')
    want(hasOwnButton(confirming.mail), 'confirming', 'The email that asks to confirm needs its button: nobody can say yes without it.')
    want(confirming.waitHeadline.trim() !== '', 'confirming', 'Write what people read while their yes is awaited.')
  }
  if (promised) {
    want(isWritten(promised.mail), 'promised', 'Write the email that brings the file: a subject and a few words.')
    want(hasOwnButton(promised.mail), 'promised', 'The email that brings the file needs its button: nobody can open the file without it.')
  }
  return missing
}
