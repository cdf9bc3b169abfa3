/** What an opt-in page says, asks and gives. */
import { isWritten } from '#core/message/blocks'
import { hasOwnButton, type OwnEmails } from '#core/message/content'
import { sayUnread, unreadIn } from '#core/message/unread'
import { badLinkIn, isAddress, sayBadLink } from '#core/message/webAddress'
import { newConfirming, type Confirming } from './confirm'
import { newForm, type FieldGift, type PageForm } from './form'
import { newTheme, type PageTheme } from './theme'
import type { Promised } from './promise'
import { nameOfResult, neverPicked, type AnswerTest, type ResultPage } from './result'
import { nameOfSection, type Section, type SectionOf } from './section'
import { hasText, paragraphs } from './text'
import { newThanks, type Thanks } from './thanks'

/** For who was one of ours before they pressed the button: other words, and other tags instead of those for newcomers. */
export interface ForKnown { tagIds: number[], thanks: Thanks }

/** What stands in the tab of a browser, in search results and where the address is shared. */
export interface PageMeta { title: string, description: string, pictureId: number | null }

/** What any page of ours is drawn from: sections, one of which holds what visitors press. */
export interface Drawn { theme: PageTheme, sections: Section[], meta: PageMeta }

export interface PageContent extends Drawn {
  form: PageForm
  listIds: number[]
  tagIds: number[]
  fields: FieldGift[]
  /** They come into this course as if they had got a tag that starts it. */
  courseId: number | null
  confirming: Confirming
  promised: Promised | null
  forKnown: ForKnown | null
  /** By what was answered; the first whose condition is true is theirs. */
  resultPages: ResultPage[]
  /** For everybody whom no result page is for. */
  thanks: Thanks
  /** Where they are sent instead of our own page of thanks; null for ours. */
  redirectUrl: string | null
}

export const newPage = (headline = ''): PageContent => ({
  theme: newTheme(),
  sections: [
    { id: 's1', kind: 'headline', name: '', hidden: false, text: headline, under: '' },
    { id: 's2', kind: 'text', name: '', hidden: false, text: paragraphs('') },
    { id: 's3', kind: 'form', name: '', hidden: false, title: '' },
  ],
  form: newForm(),
  listIds: [],
  tagIds: [],
  fields: [],
  courseId: null,
  confirming: newConfirming(),
  promised: null,
  forKnown: null,
  resultPages: [],
  thanks: newThanks(),
  redirectUrl: null,
  meta: { title: '', description: '', pictureId: null },
})

/** What stands at the top of the page, as far as anything does. */
export function headlineOf({ sections }: Pick<Drawn, 'sections'>): string {
  return sections.find((section): section is SectionOf<'headline'> => section.kind === 'headline' && !section.hidden)?.text.trim() ?? ''
}

export const titleOf = (content: Pick<Drawn, 'sections' | 'meta'>): string => content.meta.title.trim() || headlineOf(content)

/** Every list and tag that pressing the button may give. */
export function givenBy({ listIds, tagIds, form, forKnown, resultPages }: PageContent): { listIds: number[], tagIds: number[] } {
  const choices = form.asks.flatMap(ask => ask.kind === 'choice' ? ask.options : [])
  return {
    listIds: [...new Set([...listIds, ...form.boxes.flatMap(box => box.listIds)])],
    tagIds: [...new Set([
      ...tagIds, ...choices.flatMap(option => option.tagIds), ...form.boxes.flatMap(box => box.tagIds), ...forKnown?.tagIds ?? [],
      ...resultPages.flatMap(result => result.tagIds),
    ])],
  }
}

/** Every value that pressing the button may put into a field. */
export function giftsOf({ fields, form }: Pick<PageContent, 'fields' | 'form'>): FieldGift[] {
  return [...fields, ...form.asks.flatMap(ask => ask.kind === 'choice' ? ask.options.flatMap(option => option.fields) : [])]
}

/** Every field that the page asks for or sets. */
export function fieldsOf(content: Pick<PageContent, 'fields' | 'form'>): number[] {
  return [...new Set([
    ...giftsOf(content).map(({ fieldId }) => fieldId), ...content.form.asks.flatMap(ask => ask.kind === 'field' ? [ask.fieldId] : []),
  ])]
}

/** The numbers of all pictures the page shows. */
export function picturesOf({ sections, meta }: Pick<Drawn, 'sections' | 'meta'>): number[] {
  return [
    ...sections.flatMap(section => section.kind === 'picture' ? section.pictureId ?? [] : []),
    ...meta.pictureId === null ? [] : [meta.pictureId],
  ]
}

export interface Missing { field: string, problem: string }

/** Whether the form asks that, and offers every answer. */
function isThere(test: AnswerTest, { asks }: PageForm): boolean {
  const ask = asks.find(({ id }) => id === test.askId)
  if (test.is === 'field') return ask?.kind === 'field'
  return ask?.kind === 'choice' && test.optionIds.every(id => ask.options.some(option => option.id === id))
}

/** What the sections still want; `box` says it of the one that holds what visitors press. A problem of a section is found under its id. */
export function missingOfSections(sections: Section[], box: { none: string, several: string }): Missing[] {
  const missing: Missing[] = []
  const want = (is: boolean, field: string, problem: string) => {
    if (!is) missing.push({ field, problem })
  }
  const shown = sections.filter(section => !section.hidden)
  want(
    headlineOf({ sections: shown }) !== '', shown.find(({ kind }) => kind === 'headline')?.id ?? 'sections',
    'Write a headline. Visitors see it first.',
  )
  want(
    shown.filter(({ kind }) => kind === 'form').length === 1, 'sections',
    shown.some(({ kind }) => kind === 'form') ? box.several : box.none,
  )
  for (const section of shown) {
    if (section.kind === 'picture') {
      want(section.pictureId !== null, section.id, `“${nameOfSection(section)}” has no picture yet. Add one, or hide the section.`)
      want(
        section.alt.trim() !== '' || section.decorates, section.id,
        `Say what is on “${nameOfSection(section)}” for people who cannot see it, or mark it as decoration only.`,
      )
    }
    const bad = badLinkIn(section)
    if (bad !== null) want(false, section.id, sayBadLink(bad))
    if (section.kind === 'countdown') want(section.date !== null, section.id, `Choose the date for “${nameOfSection(section)}”.`)
  }
  return missing
}

export function missingOfThanks({ headline, onward }: Thanks, field: string): Missing[] {
  return [
    ...headline.trim() === '' ? [{ field, problem: 'Each page after the button needs a headline.' }] : [],
    ...onward.every(({ label, url }) => label.trim() !== '' && isAddress(url)) ? [] : [{
      field, problem: 'Each next step needs a text and an address that begins with https://',
    }],
  ]
}

/** What still keeps a page from being published, part by part; empty if nothing does. A problem of a section is found under its id. */
export function missingForPublishing(content: PageContent): Missing[] {
  const missing: Missing[] = []
  const want = (is: boolean, field: string, problem: string) => {
    if (!is) missing.push({ field, problem })
  }
  const wantThanks = (thanks: Thanks, field: string) => {
    missing.push(...missingOfThanks(thanks, field))
  }
  const { sections, form, confirming, promised, thanks, forKnown, redirectUrl, resultPages } = content
  missing.push(...missingOfSections(sections, {
    none: 'Show the form on the page. Nobody can opt in without it.',
    several: 'The page shows its form more than once. Hide or remove all but one.',
  }))
  want(form.buttonLabel.trim() !== '', 'form', 'Write the button text, like “Send me the kit”.')
  want(form.consentWording.trim() !== '', 'form', 'Say what people agree to. It is kept as their consent.')
  for (const ask of form.asks) {
    want(ask.label.trim() !== '', ask.id, 'Every question in the form needs a text.')
    if (ask.kind === 'choice') want(
      ask.options.length >= 2 && ask.options.every(option => option.label.trim() !== ''), ask.id,
      `“${ask.label || 'A question'}” needs at least two answers with text.`,
    )
  }
  for (const box of form.boxes) {
    want(box.wording.trim() !== '', box.id, 'Every checkbox in the form needs a text. It is kept as what people agreed to.')
  }
  const bad = badLinkIn(thanks) ?? badLinkIn(resultPages)
  want(bad === null, 'thanks', sayBadLink(bad ?? ''))
  want(content.listIds.length > 0, 'listIds', 'Choose at least one list. Every email belongs to one.')
  if (redirectUrl !== null) want(isAddress(redirectUrl), 'redirectUrl', 'The address people are sent on to begins with https://')
  else wantThanks(thanks, 'thanks')
  // Where nobody is asked to confirm, these words are an email.
  if (forKnown && (redirectUrl === null || confirming.who === 'nobody')) wantThanks(forKnown.thanks, 'thanks')
  const never = neverPicked(resultPages, form.asks) ?? []
  for (const result of resultPages) {
    const { id, when, thanks, redirectUrl } = result
    const called = nameOfResult(result)
    const whole = when.of.length > 0 && when.of.every(test => test.is === 'field' || test.optionIds.length > 0)
    const there = when.of.every(test => isThere(test, form))
    want(whole, id, `“${called}” needs a condition: choose which answers lead to it.`)
    want(!whole || there, id, `“${called}” is for an answer that the form no longer offers.`)
    want(
      !whole || !there || !never.includes(id), id,
      `Nobody can reach “${called}”: an earlier page always comes first, or its condition is never true.`,
    )
    if (redirectUrl !== null) want(isAddress(redirectUrl), id, `The address that “${called}” sends people to begins with https://`)
    else wantThanks(thanks, id)
  }
  if (confirming.who !== 'nobody') {
    const bad = badLinkIn(confirming)
    want(bad === null, 'confirming', sayBadLink(bad ?? ''))
    const unread = unreadIn(confirming.mail)
    want(unread === null, 'confirming', sayUnread(unread ?? ''))
    want(isWritten(confirming.mail), 'confirming', 'Write the confirmation email: a subject and a few words.')
    want(hasOwnButton(confirming.mail), 'confirming', 'The confirmation email needs its button. Nobody can confirm without it.')
    want(
      confirming.waitHeadline.trim() !== '' && hasText(confirming.waitText), 'confirming',
      'Write the page people see until they confirm.',
    )
  }
  if (promised) {
    want(promised.fileId !== null, 'file', 'Add the file that this page promises, or remove the promise.')
    const bad = badLinkIn(promised.mail)
    want(bad === null, 'promised', sayBadLink(bad ?? ''))
    const unread = unreadIn(promised.mail)
    want(unread === null, 'promised', sayUnread(unread ?? ''))
    want(isWritten(promised.mail), 'promised', 'Write the email with the file: a subject and a few words.')
    want(hasOwnButton(promised.mail), 'promised', 'The email with the file needs its button. Nobody can open the file without it.')
  }
  return missing
}

/** Those that it sends. */
export const emailsOfPage = ({ confirming, promised }: Pick<PageContent, 'confirming' | 'promised'>): OwnEmails => ({
  confirmation: confirming.who === 'nobody' ? undefined : confirming.mail, file: promised?.mail,
})
