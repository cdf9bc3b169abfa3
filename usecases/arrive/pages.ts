/** Making opt-in pages. Saving is private; publishing is an explicit step. */
import type { PageContent } from '#core/page/content'
import { missingForPublishing, newPage } from '#core/page/content'
import { slugOf } from '#core/message/headers'
import { write } from '#data/connection'
import type { Database } from '#data/connection'
import { appendEvent } from '#data/events'
import { findPage, findPageBySlug, insertPage, insertPageVersion, unpublish, updatePage } from '#data/pages'
import { findList, findTag } from '#data/marks'
import type { House } from '../house'
import { InputProblem, NotThere } from '../problem'

export interface PageInput { name: string, slug: string, draft: PageContent }

export function createPage(house: House, name: string): number {
  const title = name.replace(/\s+/g, ' ').trim()
  if (title === '') throw new InputProblem([{ field: 'name', problem: 'Give the page a name; visitors do not see it.' }])
  return write(house.db, () => {
    return insertPage(house.db, { name: title, slug: freeSlug(house.db, slugOf(title)), draft: { ...newPage(), headline: title }, at: house.clock.now() })
  })
}

function freeSlug(db: Database, wanted: string): string {
  let slug = wanted
  for (let n = 2; findPageBySlug(db, slug); n++) slug = `${wanted}-${n}`
  return slug
}

export function savePage(house: House, id: number, input: PageInput): void {
  const { db } = house
  write(db, () => {
    if (!findPage(db, id)) throw new NotThere('This page is not there any more.')
    const problems = []
    if (input.name.trim() === '') problems.push({ field: 'name', problem: 'Give the page a name; visitors do not see it.' })
    if (!/^[a-z0-9]+(-[a-z0-9]+)*$/.test(input.slug)) {
      problems.push({ field: 'slug', problem: `Small letters, digits and single hyphens, like ${slugOf(input.slug || input.name)}.` })
    }
    const other = findPageBySlug(db, input.slug)
    if (other && other.id !== id) problems.push({ field: 'slug', problem: `The page “${other.name}” has this address already.` })
    if (input.draft.listIds.some(listId => !findList(db, listId))) problems.push({ field: 'listIds', problem: 'One of these lists is not there any more.' })
    if (input.draft.tagIds.some(tagId => !findTag(db, tagId))) problems.push({ field: 'tagIds', problem: 'One of these tags is not there any more.' })
    if (problems.length > 0) throw new InputProblem(problems)
    updatePage(db, id, { name: input.name.trim(), slug: input.slug, draft: input.draft, at: house.clock.now() })
  })
}

/** Shows the draft to the public as a new version; consents refer to it from now on. */
export function publishPage(house: House, id: number): { number: number } {
  const { db } = house
  return write(db, () => {
    const page = findPage(db, id)
    if (!page) throw new NotThere('This page is not there any more.')
    const missing = missingForPublishing(page.draft)
    if (missing.length > 0) throw new InputProblem(missing)
    const at = house.clock.now()
    appendEvent(db, 'page-published', at, { pageId: id })
    return insertPageVersion(db, id, page.draft, at)
  })
}

export function takePageDown(house: House, id: number): void {
  write(house.db, () => {
    if (!findPage(house.db, id)) throw new NotThere('This page is not there any more.')
    unpublish(house.db, id)
  })
}
