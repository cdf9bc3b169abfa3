/** What starts a course, and whether coming in that way puts people on its list. */
import type { CourseDraft } from './draft'

/** What a page, an offer or anything else gives to people. */
export interface Given { tagIds: readonly number[], listIds: readonly number[], courseId: number | null }

type Entry = Pick<CourseDraft, 'wayInTagIds' | 'wayInListIds'>

/** Whether what is given starts the course, by its number, its tags or its lists. */
export function starts(courseId: number, { wayInTagIds, wayInListIds = [] }: Entry, given: Given): boolean {
  return given.courseId === courseId
    || given.tagIds.some(id => wayInTagIds.includes(id))
    || given.listIds.some(id => wayInListIds.includes(id))
}

/**
 * Whether somebody who comes in by what is given is not on the course's list: every email would be held back for it.
 * `joined`: lists that everybody who comes that way joins.
 */
export function leadsAstray({
  listId, joinsList,
}: Pick<CourseDraft, 'listId' | 'joinsList'>, joined: readonly number[], takesEverybody: (listId: number) => boolean): boolean {
  return listId !== null && !joinsList && !joined.includes(listId) && !takesEverybody(listId)
}
