/** Ways into a course that do not lead onto its list: whoever comes by them gets none of its emails. */
import { givenBy, type PageContent } from '#core/page/content'
import type { OfferContent } from '#core/offers/offer'
import { leadsAstray, starts, type Given } from '#core/sequence/entries'
import type { Astray } from '#core/views/course'
import { allCourses, type CourseRow } from '#data/courses'
import type { Database } from '#data/connection'
import { allLists } from '#data/marks'
import { allOffers } from '#data/offers'
import { findPage, publishedVersions } from '#data/pages'

interface Way { by: Astray['by'], given: Given, joined: readonly number[] }

const wayOfPage = (id: number, name: string, content: PageContent): Way => ({
  by: { kind: 'page', id, name }, given: { ...givenBy(content), courseId: content.courseId }, joined: content.listIds,
})
const waysOfOffer = (id: number, name: string, { gives, waiting }: OfferContent): Way[] => [
  { by: { kind: 'offer', id, name }, given: gives, joined: gives.listIds },
  ...waiting ? [{ by: { kind: 'waiting-list' as const, id, name }, given: { ...waiting, courseId: null }, joined: waiting.listIds }] : [],
]

/** Of one page as it is written; of one course as it is written; else of all that are published and run. */
export function astrayWays(db: Database, only: { pageId?: number, courseId?: number } = {}): Astray[] {
  const lists = new Map(allLists(db).map(list => [list.id, list]))
  const takesEverybody = (id: number) => lists.get(id)?.takesEverybody === 1
  const ways = only.pageId === undefined ? publicWays(db) : waysOfDraft(db, only.pageId)
  return allCourses(db).flatMap((course) => {
    const content = contentOf(course, only.courseId)
    if (!content) return []
    const list = { id: content.listId!, name: lists.get(content.listId!)?.name ?? '' }
    return ways
      .filter(({ given, joined }) => starts(course.id, content, given) && leadsAstray(content, joined, takesEverybody))
      .map(({ by }) => ({ by, course: { id: course.id, name: course.name }, list }))
  })
}

function waysOfDraft(db: Database, pageId: number): Way[] {
  const page = findPage(db, pageId)
  return page ? [wayOfPage(page.id, page.name, page.draft)] : []
}

function publicWays(db: Database): Way[] {
  return [
    ...publishedVersions(db).map(({ id, name, content }) => wayOfPage(id, name, content)),
    ...allOffers(db).flatMap(({ id, name, published }) => published ? waysOfOffer(id, name, published) : []),
  ]
}

function contentOf({ id, status, draft, published }: CourseRow, only: number | undefined) {
  if (only !== undefined) return id === only ? draft : null
  return status === 'running' ? published : null
}
