/** The five-day email course *Fold, Sew, Cover*: the finished piece, with the marks of the bindery in it. */
import { mapIds } from '#core/mentions'
import type { CourseDraft } from '#core/sequence/draft'
import { fiveDays } from '#core/sequence/templates/fiveDays'
import { SITE } from '#core/sequence/templates/template'

export interface CourseMarks {
  listId: number, kitTagId: number, courseTagId: number, copticId: number, longStitchId: number, marblingId: number, undecidedId: number,
}

/** `classUrl`: where the class that comes after it is sold. */
export function foldSewCover(marks: CourseMarks, classUrl: string): CourseDraft {
  const { draft, names } = fiveDays.course
  const ids: Record<string, number> = {
    'free course': marks.listId, 'took: sheet kit': marks.kitTagId, 'wants: free course': marks.courseTagId, 'undecided': marks.undecidedId,
    'likes: coptic': marks.copticId, 'likes: long-stitch': marks.longStitchId, 'likes: marbling': marks.marblingId,
  }
  const own = mapIds(draft, (kind, id) => ids[(kind === 'list' ? names.list : names.tag)[id]!.name]!)
  return JSON.parse(JSON.stringify(own).replaceAll(`${SITE}/classes/long-stitch`, classUrl)) as CourseDraft
}
