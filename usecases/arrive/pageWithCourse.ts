/** An opt-in page and the course that starts from it, in one go: on the same list, and joined by a tag. */
import { NOTHING_FOLLOWS } from '#core/rules/shortForms'
import type { CourseBeginning } from '#core/views/course'
import type { PageBeginning } from '#core/views/pages'
import { allLists, findList, findListByName, findTagByName } from '#data/marks'
import { findPage, updatePage } from '#data/pages'
import { workspaceOf } from '#data/workspace'
import type { WorkspaceContext } from '../context'
import { beginCourse } from '../courses/begin'
import { transact } from '../inner/reactor/transaction'
import { saveList, saveTag } from '../know/listsAndTags'
import { InputProblem } from '../problem'
import { createPage } from './pages'

export interface PageAndCourse {
  page: { name: string, beginning: PageBeginning }
  /** `listId` null: a new list. */
  course: { beginning: CourseBeginning, listId: number | null }
}

/** `newId` makes the inner name of a step. */
export function makePageWithCourse(
  context: WorkspaceContext, { page, course }: PageAndCourse, newId: () => string,
): { id: number, courseId: number } {
  const { db } = context
  return transact(context, () => {
    const id = createPage(context, page.name, page.beginning)
    const { name, slug, draft } = findPage(db, id)!
    const listId = course.listId ?? makeList(context)
    if (!findList(db, listId)) throw new InputProblem([{ field: 'listId', problem: 'This list no longer exists; choose another.' }])
    const tagId = saveTag(context, null, {
      name: freeName(`opted in: ${name}`, taken => findTagByName(db, taken) !== undefined),
      note: `Given by the page “${name}”.`, group: '',
      colour: null, expiry: { kind: 'never' }, follows: NOTHING_FOLLOWS,
    })
    updatePage(db, id, { name, slug, draft: { ...draft, listIds: [listId], tagIds: [...draft.tagIds, tagId] }, at: context.clock.now() })
    const { id: courseId } = beginCourse(context, name, course.beginning, newId, { listId, tagId })
    return { id, courseId }
  })
}

/** The first list is what everybody may be sent, and is called so. */
function makeList(context: WorkspaceContext): number {
  const { db } = context
  const name = freeName(allLists(db).length === 0 ? 'newsletter' : 'new list', taken => findListByName(db, taken) !== undefined)
  return saveList(context, null, { name, publicName: workspaceOf(db).name || name, description: '', offered: true })
}

function freeName(wanted: string, isTaken: (name: string) => boolean): string {
  for (let n = 1; ; n++) {
    const end = n === 1 ? '' : ` ${n}`
    const name = `${[...wanted].slice(0, 80 - end.length).join('')}${end}`
    if (!isTaken(name)) return name
  }
}
