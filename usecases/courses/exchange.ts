/** Courses out of the workspace and into it. */
import { inlineParts } from '#core/message/complete'
import { mapIds } from '#core/mentions'
import { toPortable, without, type PortableCourse } from '#core/exchange/course'
import type { CourseDraft } from '#core/sequence/draft'
import { COURSE_TEMPLATES } from '#core/sequence/templates/index'
import type { BroughtCourse, CourseTemplateLine } from '#core/views/course'
import type { Database } from '#data/connection'
import { findPart } from '#data/emailParts'
import { allCourses, findCourse, insertCourse, updateDraft } from '#data/courses'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { bringNames, describer } from '../know/portableNames'
import { NotThere } from '../problem'
import { checkDraft } from './save'

/** As it is written now. */
export function exportCourse({ db }: WorkspaceContext, id: number): PortableCourse {
  const course = findCourse(db, id)
  if (!course) throw new NotThere('This course no longer exists.')
  return toPortable(course.name, '', inlineParts(course.draft, partId => findPart(db, partId)?.body), describer(db))
}

export const courseTemplates = (): CourseTemplateLine[] =>
  COURSE_TEMPLATES.map(({ key, course: { name, reason, draft } }) => ({ key, name, reason, draft }))

export function courseTemplate(key: string): PortableCourse {
  const template = COURSE_TEMPLATES.find(one => one.key === key)
  if (!template) throw new NotThere('This template no longer exists.')
  return template.course
}

/**
 * Makes a course of a file: lists, tags and fields that are not there are made, by name; what names something else that is not there is
 * left out, and said. It stands there as a draft.
 */
export function bringCourse(context: WorkspaceContext, file: PortableCourse): BroughtCourse {
  const { db } = context
  return transact(context, () => {
    const { draft, made, lost } = draftOf(context, file)
    const at = context.clock.now()
    const name = freeName(db, file.name)
    const id = insertCourse(db, name, draft, at)
    updateDraft(db, id, name, draft, at)
    return { id, name, made, lost }
  })
}

/** The draft of a file with the numbers of this workspace; in the caller's transaction. */
export function draftOf(
  context: WorkspaceContext, file: Pick<PortableCourse, 'names' | 'draft'>,
): Pick<BroughtCourse, 'made' | 'lost'> & { draft: CourseDraft } {
  const { made, lost, isHere, idOf } = bringNames(context, file.names)
  const draft = mapIds(without(file.draft, (kind, id) => !isHere(kind, id)), idOf)
  checkDraft(context.db, draft)
  return { draft, made, lost }
}

function freeName(db: Database, wanted: string): string {
  const taken = new Set(allCourses(db).map(({ name }) => name.toLowerCase()))
  const base = wanted.replace(/\s+/g, ' ').trim() || 'Course'
  for (let n = 1; ; n++) {
    const name = n === 1 ? base : `${base} (${n})`
    if (!taken.has(name.toLowerCase())) return name
  }
}

