/** Lists and tags, with how many people and where they are used. */
import { linksOf } from '#core/message/content'
import type { ListLine, TagLine } from '#core/views/marks'
import { allCourses } from '#data/courses'
import { allPages } from '#data/pages'
import { allLists, allTags } from '#data/marks'
import type { House } from '../house'

export function listLines(house: House): ListLine[] {
  const pages = allPages(house.db)
  const courses = allCourses(house.db)
  return allLists(house.db).map(({ createdAt: _, ...list }) => ({
    ...list,
    takesEverybody: list.takesEverybody === 1,
    uses: [
      ...pages.filter(page => page.draft.listIds.includes(list.id)).map(page => ({ kind: 'page' as const, id: page.id, name: page.name, how: 'joined on' })),
      ...courses.filter(course => course.draft.listId === list.id).map(course => ({ kind: 'course' as const, id: course.id, name: course.name, how: 'mailed by' })),
    ],
  }))
}

export function tagLines(house: House): TagLine[] {
  const pages = allPages(house.db)
  const courses = allCourses(house.db)
  return allTags(house.db).map(({ createdAt: _, ...tag }) => ({
    ...tag,
    uses: [
      ...pages.filter(page => page.draft.tagIds.includes(tag.id)).map(page => ({ kind: 'page' as const, id: page.id, name: page.name, how: 'given by' })),
      ...courses.flatMap(({ id, name, draft }) => [
        ...(draft.wayInTagIds.includes(tag.id) ? [{ kind: 'course' as const, id, name, how: 'starts' }] : []),
        ...(draft.steps.some(step => linksOf(step.content.body).some(link => link.tagId === tag.id)) ? [{ kind: 'course' as const, id, name, how: 'given by a link in' }] : []),
        ...(draft.steps.some(step => step.ifNotClicked?.tagId === tag.id) ? [{ kind: 'course' as const, id, name, how: 'given for not clicking in' }] : []),
      ]),
    ],
  }))
}
