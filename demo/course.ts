/** The five-day email course *Fold, Sew, Cover*: the finished piece, with the marks of the bindery in it. */
import type { Condition } from '#core/audience/condition'
import { mapIds } from '#core/mentions'
import type { BlockNode, CaseNode, ParagraphNode } from '#core/message/content'
import type { CourseDraft } from '#core/sequence/draft'
import { fiveDays } from '#core/sequence/templates/fiveDays'
import { SITE } from '#core/sequence/templates/template'

export interface CourseMarks {
  listId: number, kitTagId: number, courseTagId: number, copticId: number, longStitchId: number, marblingId: number, undecidedId: number,
}

/** The last email says something else to those who have said what they like, and ends with the signature that stands in several. */
function personal(draft: CourseDraft, { copticId, longStitchId }: CourseMarks, partId: number): CourseDraft {
  const says = (text: string): ParagraphNode => ({ type: 'paragraph', content: [{ type: 'text', text }] })
  const likes = (tagId: number): Condition => ({ kind: 'all', of: [{ kind: 'tag', tagId, since: null }] })
  const version = (who: Condition | null, text: string): CaseNode => ({ type: 'case', attrs: { who }, content: [says(text)] })
  const next: BlockNode = { type: 'onlyFor', attrs: { id: 'next' }, content: [
    version(likes(copticId), 'Leave your coptic book open overnight. If it lies flat in the morning, the tension was right.'),
    version(likes(longStitchId), 'The leather of your journal darkens where you hold it. Let it.'),
    version(null, 'You have not said which book pulls at you. There is no hurry: the question stays open.'),
  ] }
  return { ...draft, steps: draft.steps.map((step) => {
    if (step.kind !== 'email' || step.id !== 'cover') return step
    const blocks = step.content.body.content.slice(0, -1)
    const end: BlockNode = { type: 'part', attrs: { id: 'end', partId } }
    const body = { ...step.content.body, content: [...blocks.slice(0, 2), next, ...blocks.slice(2), end] }
    return { ...step, content: { ...step.content, body } }
  }) }
}

/** `classUrl`: where the class that comes after it is sold; `partId`: the signature. */
export function foldSewCover(marks: CourseMarks, classUrl: string, partId: number): CourseDraft {
  const { draft, names } = fiveDays.course
  const ids: Record<string, number> = {
    'free course': marks.listId, 'took: sheet kit': marks.kitTagId, 'wants: free course': marks.courseTagId, 'undecided': marks.undecidedId,
    'likes: coptic': marks.copticId, 'likes: long-stitch': marks.longStitchId, 'likes: marbling': marks.marblingId,
  }
  const own = mapIds(draft, (kind, id) => ids[(kind === 'list' ? names.list : names.tag)[id]!.name]!)
  return personal(JSON.parse(JSON.stringify(own).replaceAll(`${SITE}/classes/long-stitch`, classUrl)) as CourseDraft, marks, partId)
}
