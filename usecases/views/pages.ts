/** Opt-in pages for their screens. */
import { saysTheSame } from '#core/message/same'
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
import type { WorkspaceContext } from '../context'
import { revisionOf } from '../inner/revision'
import { NotThere } from '../problem'

const line = (context: WorkspaceContext, page: PageRow): PageLine => ({
  id: page.id, name: page.name, slug: page.slug, url: `${context.baseUrl}/p/${page.slug}`,
  status: page.published ? 'published' : 'draft',
  hasChanges: page.published !== null && !saysTheSame(page.published, page.draft),
  optIns: page.optIns, versionNumber: page.versionNumber,
})

export function pageLines(context: WorkspaceContext): PageLine[] {
  return allPages(context.db).map(page => line(context, page))
}

export const pageView = (context: WorkspaceContext, id: number): PageView => readTogether(context.db, () => checkPage(context, id))

function checkPage(context: WorkspaceContext, id: number): PageView {
  const page = findPage(context.db, id)
  if (!page) throw new NotThere('This page no longer exists.')
  const leadsTo = allCourses(context.db)
    .filter(course => course.status === 'running' && starts(course.id, course.published!, {
      ...givenBy(page.draft), courseId: page.draft.courseId,
    }))
    .map(({ id, name }) => ({ id, name }))
  const pictures = picturesByIds(context.db, picturesOf(page.draft))
  return {
    ...line(context, page), draft: page.draft, revision: revisionOf(context, page), pictures, missing: missingOf(context.db, page.draft),
    leadsTo, astray: astrayWays(context.db, { pageId: id }),
    file: page.draft.promised?.fileId ? findFile(context.db, page.draft.promised.fileId) ?? null : null,
  }
}
