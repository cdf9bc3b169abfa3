/** Opt-in pages for their screens. */
import { astrayWays } from './astray'
import { starts } from '#core/sequence/entries'
import { givenBy, picturesOf } from '#core/page/content'
import type { PageLine, PageView } from '#core/views/pages'
import { readTogether } from '#data/connection'
import { allPages, findPage } from '#data/pages'
import type { PageRow } from '#data/pages'
import { allCourses } from '#data/courses'
import { findFile } from '#data/files'
import { picturesByIds } from '#data/pictures'
import { missingOf } from '../arrive/pages'
import type { House } from '../house'
import { revisionOf } from '../inner/revision'
import { NotThere } from '../problem'

const line = (house: House, page: PageRow): PageLine => ({
  id: page.id, name: page.name, slug: page.slug, url: `${house.baseUrl}/p/${page.slug}`,
  status: page.published ? 'published' : 'draft',
  hasChanges: page.published !== null && JSON.stringify(page.published) !== JSON.stringify(page.draft),
  optIns: page.optIns, versionNumber: page.versionNumber,
})

export function pageLines(house: House): PageLine[] {
  return allPages(house.db).map(page => line(house, page))
}

export const pageView = (house: House, id: number): PageView => readTogether(house.db, () => lookAtPage(house, id))

function lookAtPage(house: House, id: number): PageView {
  const page = findPage(house.db, id)
  if (!page) throw new NotThere('This page is not there any more.')
  const leadsTo = allCourses(house.db)
    .filter(course => course.status === 'running' && starts(course.id, course.published!, {
      ...givenBy(page.draft), courseId: page.draft.courseId,
    }))
    .map(({ id, name }) => ({ id, name }))
  const pictures = picturesByIds(house.db, picturesOf(page.draft))
  return {
    ...line(house, page), draft: page.draft, revision: revisionOf(house, page), pictures, missing: missingOf(house.db, page.draft),
    leadsTo, astray: astrayWays(house.db, { pageId: id }),
    file: page.draft.promised?.fileId ? findFile(house.db, page.draft.promised.fileId) ?? null : null,
  }
}
