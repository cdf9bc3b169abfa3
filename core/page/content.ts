/** What an opt-in page says, asks and gives. */
import type { HeadingNode, ListNode, ParagraphNode, RichText } from '#core/message/content'

export type PageText = RichText<ParagraphNode | HeadingNode | ListNode>

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
  thanksHeadline: string
  thanksText: PageText
}

export const paragraphs = (...texts: string[]): PageText => ({
  type: 'doc',
  content: texts.map(text => ({ type: 'paragraph', content: text ? [{ type: 'text', text }] : [] })),
})

export const newPage = (): PageContent => ({
  headline: '',
  text: paragraphs(''),
  asksFirstName: true,
  firstNameRequired: false,
  buttonLabel: 'Send it to me',
  consentWording: 'You get emails from us and can leave with one press at any time.',
  listIds: [],
  tagIds: [],
  thanksHeadline: 'Thank you',
  thanksText: paragraphs('The first email is on its way. Please look in your inbox.'),
})

/** What still keeps a page from being published, field by field; empty if nothing does. */
export function missingForPublishing(content: PageContent): { field: keyof PageContent, problem: string }[] {
  const missing: { field: keyof PageContent, problem: string }[] = []
  if (content.headline.trim() === '') missing.push({ field: 'headline', problem: 'Write a headline: it is what visitors see first.' })
  if (content.buttonLabel.trim() === '') missing.push({ field: 'buttonLabel', problem: 'Write what the button says, like “Send me the kit”.' })
  if (content.consentWording.trim() === '') missing.push({ field: 'consentWording', problem: 'Say what people agree to: it is kept as their consent.' })
  if (content.listIds.length === 0) missing.push({ field: 'listIds', problem: 'Choose at least one list: every email belongs to one.' })
  if (content.thanksHeadline.trim() === '') missing.push({ field: 'thanksHeadline', problem: 'Write what people read after the button.' })
  return missing
}
