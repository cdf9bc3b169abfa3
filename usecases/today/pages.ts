/** What opt-in pages ask for. */
import { givenBy } from '#core/page/content'
import { starts } from '#core/sequence/entries'
import type { Notice } from '#core/views/today'
import { allCourses } from '#data/courses'
import { allTags } from '#data/marks'
import { allPages } from '#data/pages'
import type { WorkspaceContext } from '../context'
import { inSight } from './inSight'

export function pageNotices(context: WorkspaceContext): Notice[] {
  const { db } = context
  const running = allCourses(db).filter(course => course.status === 'running')
  const names = new Map(allTags(db).map(tag => [tag.id, tag.name]))
  const list: Notice[] = []
  for (const page of inSight(db, 'page', allPages(db))) {
    if (!page.published) {
      list.push({
        tone: 'plain', title: `${page.name} is not published`, text: 'Only you can see it.', to: `/pages/${page.id}`,
        action: 'Finish the page',
      })
    }
    else if (page.published.promised === null && page.published.resultPages.length === 0 && !running.some(course => starts(
      course.id, course.published!, { ...givenBy(page.published!), courseId: page.published!.courseId }
    ))) {
      const given = givenBy(page.published).tagIds.map(id => names.get(id)).join(', ')
      list.push({
        tone: 'plain', title: `Nothing happens after ${page.name}`,
        text: given ? `It gives ${given}, which starts no running course.` : 'It gives no tag, so no course starts.',
        to: `/pages/${page.id}?part=gives`, action: 'Choose what happens',
      })
    }
  }
  return list
}
