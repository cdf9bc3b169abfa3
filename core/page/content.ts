/** What an opt-in page says, asks and gives. */
import { hasOwnButton, isWritten } from '#core/message/content'
import { newConfirming, type Confirming } from './confirm'
import { newForm, type PageForm } from './form'
import { newLook, type PageLook } from './look'
import type { Promised } from './promise'
import { nameOfSection, type Section, type SectionOf } from './section'
import { hasText, paragraphs, type PageText } from './text'

/** Where people can go on from a page of thanks. */
export interface Onward { label: string, url: string }

export interface Thanks { headline: string, text: PageText, onward: Onward[] }

/** For who was one of ours before they pressed the button: other words, and other tags instead of those for newcomers. */
export interface ForKnown { tagIds: number[], thanks: Thanks }

/** What stands in the tab of a browser, in search results and where the address is shared. */
export interface PageMeta { title: string, description: string, pictureId: number | null }

export interface PageContent {
  look: PageLook
  sections: Section[]
  form: PageForm
  listIds: number[]
  tagIds: number[]
  /** They come into this course as if they had got a tag that starts it. */
  courseId: number | null
  confirming: Confirming
  promised: Promised | null
  forKnown: ForKnown | null
  thanks: Thanks
  /** Where they are sent instead of our own page of thanks; null for ours. */
  redirectUrl: string | null
  meta: PageMeta
}

export const newThanks = (): Thanks => ({ headline: 'Thank you', text: paragraphs('The first email is on its way. Please look in your inbox.'), onward: [] })

export const newPage = (headline = ''): PageContent => ({
  look: newLook(),
  sections: [
    { id: 's1', kind: 'headline', name: '', hidden: false, text: headline, under: '' },
    { id: 's2', kind: 'text', name: '', hidden: false, text: paragraphs('') },
    { id: 's3', kind: 'form', name: '', hidden: false, title: '' },
  ],
  form: newForm(),
  listIds: [],
  tagIds: [],
  courseId: null,
  confirming: newConfirming(),
  promised: null,
  forKnown: null,
  thanks: newThanks(),
  redirectUrl: null,
  meta: { title: '', description: '', pictureId: null },
})

/** What stands at the top of the page, as far as anything does. */
export function headlineOf({ sections }: Pick<PageContent, 'sections'>): string {
  return sections.find((section): section is SectionOf<'headline'> => section.kind === 'headline' && !section.hidden)?.text.trim() ?? ''
}

export const titleOf = (content: Pick<PageContent, 'sections' | 'meta'>): string => content.meta.title.trim() || headlineOf(content)

/** Every list and tag that pressing the button may give. */
export function givenBy({ listIds, tagIds, form, forKnown }: PageContent): { listIds: number[], tagIds: number[] } {
  const choices = form.asks.flatMap(ask => ask.kind === 'choice' ? ask.options : [])
  return {
    listIds: [...new Set([...listIds, ...form.boxes.flatMap(box => box.listIds)])],
    tagIds: [...new Set([...tagIds, ...choices.flatMap(option => option.tagIds), ...form.boxes.flatMap(box => box.tagIds), ...forKnown?.tagIds ?? []])],
  }
}

/** The numbers of all pictures the page shows. */
export function picturesOf({ sections, meta }: Pick<PageContent, 'sections' | 'meta'>): number[] {
  return [...sections.flatMap(section => section.kind === 'picture' ? section.pictureId ?? [] : []), ...meta.pictureId === null ? [] : [meta.pictureId]]
}

/** An address that may stand behind a link of a page. */
export const isWebAddress = (url: string): boolean => /^https?:$/.test(URL.parse(url)?.protocol ?? '')

export interface Missing { field: string, problem: string }

/** What still keeps a page from being published, part by part; empty if nothing does. A problem of a section is found under its id. */
export function missingForPublishing(content: PageContent): Missing[] {
  const missing: Missing[] = []
  const want = (is: boolean, field: string, problem: string) => {
    if (!is) missing.push({ field, problem })
  }
  const { sections, form, confirming, promised, thanks, forKnown, redirectUrl } = content
  const shown = sections.filter(section => !section.hidden)
  want(headlineOf(content) !== '', shown.find(({ kind }) => kind === 'headline')?.id ?? 'sections', 'Write a headline: it is what visitors see first.')
  want(shown.filter(({ kind }) => kind === 'form').length === 1, 'sections', shown.some(({ kind }) => kind === 'form') ? 'The page shows its form more than once. Hide or remove all but one.' : 'Show the form on the page: nobody can opt in without it.')
  for (const section of shown) {
    if (section.kind === 'picture') {
      want(section.pictureId !== null, section.id, `“${nameOfSection(section)}” has no picture yet. Bring one, or hide the section.`)
      want(section.alt.trim() !== '' || section.decorates, section.id, `Say what is on “${nameOfSection(section)}” for people who do not see it, or say that it only decorates.`)
    }
    if (section.kind === 'countdown') want(section.date !== null, section.id, `Say until when “${nameOfSection(section)}” counts.`)
  }
  want(form.buttonLabel.trim() !== '', 'form', 'Write what the button says, like “Send me the kit”.')
  want(form.consentWording.trim() !== '', 'form', 'Say what people agree to: it is kept as their consent.')
  for (const ask of form.asks) {
    want(ask.label.trim() !== '', ask.id, 'Every question of the form needs its words.')
    if (ask.kind === 'choice') want(ask.options.length >= 2 && ask.options.every(option => option.label.trim() !== ''), ask.id, `“${ask.label || 'A question'}” needs at least two answers, each with its words.`)
  }
  for (const box of form.boxes) want(box.wording.trim() !== '', box.id, 'Every box of the form needs its words: they are kept as what was agreed to.')
  want(content.listIds.length > 0, 'listIds', 'Choose at least one list: every email belongs to one.')
  if (redirectUrl !== null) want(isWebAddress(redirectUrl), 'redirectUrl', 'The address people are sent on to begins with https://')
  else want(thanks.headline.trim() !== '', 'thanks', 'Write what people read after the button.')
  for (const { headline, onward } of [thanks, ...forKnown ? [forKnown.thanks] : []]) {
    want(headline.trim() !== '' || redirectUrl !== null, 'thanks', 'A page of thanks needs its headline.')
    want(onward.every(({ label, url }) => label.trim() !== '' && isWebAddress(url)), 'thanks', 'Each onward step needs its words and an address that begins with https://')
  }
  if (confirming.who !== 'nobody') {
    want(isWritten(confirming.mail), 'confirming', 'Write the email that asks to confirm: a subject and a few words.')
    want(hasOwnButton(confirming.mail), 'confirming', 'The email that asks to confirm needs its button: nobody can say yes without it.')
    want(confirming.waitHeadline.trim() !== '' && hasText(confirming.waitText), 'confirming', 'Write what people read while their yes is awaited.')
  }
  if (promised) {
    want(isWritten(promised.mail), 'promised', 'Write the email that brings the file: a subject and a few words.')
    want(hasOwnButton(promised.mail), 'promised', 'The email that brings the file needs its button: nobody can open the file without it.')
  }
  return missing
}
