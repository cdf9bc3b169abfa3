/** Opt-in pages for their screens. */
import type { Astray } from './course'
import type { PageContent } from '#core/page/content'
import type { PictureView } from '#core/page/picture'
import type { Rate } from '#core/stats/rate'
import type { Instant, LocalDate } from '#core/time/zone'

export interface PageLine {
  id: number, name: string, slug: string, url: string, status: 'draft' | 'published', hasChanges: boolean, optIns: number,
  versionNumber: number | null,
}

export interface PageView extends PageLine {
  draft: PageContent
  /** Which state of name, address and draft this is; saving sends it along. */
  revision: string
  missing: { field: string, problem: string }[]
  pictures: PictureView[]
  /** The file it promises. */
  file: { id: number, name: string, bytes: number } | null
  /** Running courses that someone who opts in here comes into. */
  leadsTo: { id: number, name: string }[]
  /** Of these, those whose list they do not join here. */
  astray: Astray[]
}

/** How a page did in a number of days. People are counted once each; visits are showings of the page. */
export interface PageResults {
  id: number
  name: string
  days: number
  from: Instant
  /** Not included. */
  to: Instant
  published: boolean
  visits: number
  /** People who pressed the button. */
  optIns: number
  rate: Rate
  /** People whose opt-in began to count: at once, or with their yes. */
  counted: number
  /** People who pressed the button and have not said yes. */
  notConfirmed: number
  /** People who fetched the promised file for the first time; null where none is promised. */
  fetched: number | null
  byDay: { day: LocalDate, at: Instant, visits: number, optIns: number }[]
  /** `touchId` null: opted in before it was kept. */
  bySource: { touchId: number | null, says: string, visits: number, optIns: number, rate: Rate }[]
  /** By the result page that answers led to; `resultId` null for none of them. Empty where the page has none. */
  byResult: { resultId: string | null, name: string, optIns: number }[]
  /** Addresses to hand out, one for each source with a name. */
  links: { id: number, name: string, url: string }[]
}

export interface PageInput { name: string, slug: string, draft: PageContent }

/** What a new page begins as: a template by its key, a page of one's own by its number, or nothing. */
export type PageBeginning = string | number | null

export interface FileView { id: number, name: string, type: string, bytes: number }
