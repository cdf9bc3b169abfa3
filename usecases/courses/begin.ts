/** A new course: empty, of an outline, or a finished one to be made one's own. */
import { withoutItsDoor } from '#core/exchange/course'
import { emailsOfOutline } from '#core/sequence/outline'
import type { BroughtCourse, CourseBeginning } from '#core/views/course'
import { findCourse, insertCourse, updateDraft } from '#data/courses'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { bringCourse, courseTemplate } from './exchange'
import { createCourse, tidyTitle } from './save'

/** The list it belongs to, and the tag that starts it, where they are known; a finished course else brings its own. */
export interface Door { listId: number, tagId: number }

/** `newId` makes the inner name of a step. */
export function beginCourse(
  context: WorkspaceContext, name: string, beginning: CourseBeginning, newId: () => string, door: Door | null = null,
): BroughtCourse {
  return transact(context, () => {
    const begun = beginAs(context, name, beginning, newId, door !== null)
    if (door) {
      const { draft } = findCourse(context.db, begun.id)!
      updateDraft(context.db, begun.id, begun.name, { ...draft, listId: door.listId, wayInTagIds: [door.tagId] }, context.clock.now())
    }
    return begun
  })
}

function beginAs(
  context: WorkspaceContext, name: string, beginning: CourseBeginning, newId: () => string, hasDoor: boolean,
): BroughtCourse {
  const title = tidyTitle(name)
  switch (beginning.kind) {
    case 'empty': return { id: createCourse(context, title, newId()), name: title, made: [], lost: [] }
    case 'outline': {
      const steps = emailsOfOutline(beginning.outline, true, newId)
      const draft = { listId: null, wayInTagIds: [], again: 'after-ending' as const, steps }
      return { id: insertCourse(context.db, title, draft, context.clock.now()), name: title, made: [], lost: [] }
    }
    case 'template': {
      const file = { ...courseTemplate(beginning.key), name: title }
      return bringCourse(context, hasDoor ? withoutItsDoor(file) : file)
    }
  }
}
