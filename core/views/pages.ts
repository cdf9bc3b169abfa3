/** Opt-in pages for their screens. */
import type { PageContent } from '#core/page/content'

export interface PageLine { id: number, name: string, slug: string, url: string, status: 'draft' | 'published', hasChanges: boolean, optIns: number, versionNumber: number | null }

export interface PageView extends PageLine {
  draft: PageContent
  missing: { field: string, problem: string }[]
  /** Running courses that someone who opts in here comes into. */
  leadsTo: { id: number, name: string }[]
}
