/** Pages as any version of ours has stored them. A published version is never rewritten: consent refers to it. */
import type { Confirming } from './confirm'
import { newPage, type PageContent } from './content'
import type { Promised } from './promise'
import type { PageText } from './text'

/** Before pages were made of sections. */
interface FlatPage {
  headline: string
  text: PageText
  asksFirstName: boolean
  firstNameRequired: boolean
  buttonLabel: string
  consentWording: string
  listIds: number[]
  tagIds: number[]
  confirming?: Confirming
  promised?: Promised | null
  thanksHeadline: string
  thanksText: PageText
}

/** Before answers could set fields. */
const NO_GIFTS = { fields: [] }

/** What came later stands as those who made the page had it: nobody was asked to confirm, and nothing looked different. */
export function pageFrom(stored: unknown): PageContent {
  const page = newPage()
  const asked = { ...page.confirming, who: 'nobody' as const }
  if (typeof stored !== 'object' || stored === null || !('headline' in stored)) {
    const content = { ...page, confirming: asked, ...stored as Partial<PageContent> }
    const asks = content.form.asks.map(ask =>
      ask.kind === 'choice' ? { ...ask, options: ask.options.map(option => ({ ...NO_GIFTS, ...option })) } : ask)
    return { ...content, form: { ...page.form, ...content.form, asks } }
  }
  const {
    headline, text, asksFirstName, firstNameRequired, buttonLabel, consentWording, listIds, tagIds, confirming, promised, thanksHeadline,
    thanksText,
  } = stored as FlatPage
  return {
    ...page,
    sections: [
      { id: 's1', kind: 'headline', name: '', hidden: false, text: headline, under: '' },
      { id: 's2', kind: 'text', name: '', hidden: false, text },
      { id: 's3', kind: 'form', name: '', hidden: false, title: '' },
    ],
    form: { ...page.form, firstName: asksFirstName ? firstNameRequired ? 'must' : 'may' : 'no', buttonLabel, consentWording },
    listIds, tagIds, confirming: confirming ?? asked, promised: promised ?? null,
    thanks: { headline: thanksHeadline, text: thanksText, onward: [] },
  }
}
