/** Courses out of the workspace and into it. */
import { mapIds } from '#core/mentions'
import { toPortable, without, type PortableCourse } from '#core/exchange/course'
import type { ThingKind } from '#core/things'
import { isFieldKind } from '#core/people/field'
import { NOTHING_FOLLOWS } from '#core/rules/shortForms'
import { COURSE_TEMPLATES } from '#core/sequence/templates/index'
import type { BroughtCourse, CourseTemplateLine } from '#core/views/course'
import type { Database } from '#data/connection'
import { allCourses, findCourse, insertCourse, updateDraft } from '#data/courses'
import { allFields, findField } from '#data/fields'
import { hookNames } from '#data/hooks'
import { linkNames } from '#data/links'
import { allLists, allTags, findList, findTag } from '#data/marks'
import { offerNames } from '#data/offers'
import { pageNames } from '#data/pages'
import { allSegments } from '#data/segments'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { saveField } from '../know/fields'
import { saveList, saveTag } from '../know/listsAndTags'
import { InputProblem, NotThere } from '../problem'
import { checkDraft } from './save'

/** As it is written now. */
export function exportCourse({ db }: WorkspaceContext, id: number): PortableCourse {
  const course = findCourse(db, id)
  if (!course) throw new NotThere('This course is not there any more.')
  return toPortable(course.name, '', course.draft, (kind, thingId) => {
    if (kind === 'list') {
      const list = findList(db, thingId)
      return list && { name: list.name, publicName: list.publicName, description: list.description }
    }
    if (kind === 'tag') return findTag(db, thingId)
    if (kind === 'field') {
      const field = findField(db, thingId)
      return field && { name: field.name, label: field.label, type: field.kind }
    }
    return othersOf(db, kind).find(one => one.id === thingId)
  })
}

function othersOf(db: Database, kind: ThingKind): { id: number, name: string }[] {
  switch (kind) {
    case 'course': return allCourses(db)
    case 'offer': return offerNames(db)
    case 'page': return pageNames(db)
    case 'segment': return allSegments(db)
    case 'link': return linkNames(db)
    case 'hookIn': return hookNames(db).in
    case 'hookOut': return hookNames(db).out
    default: return []
  }
}

export const courseTemplates = (): CourseTemplateLine[] => COURSE_TEMPLATES.map(({ key, course: { name, reason, draft } }) => ({ key, name, reason, draft }))

export function copyCourseTemplate(context: WorkspaceContext, key: string): BroughtCourse {
  const template = COURSE_TEMPLATES.find(one => one.key === key)
  if (!template) throw new NotThere('This template is not there any more.')
  return bringCourse(context, template.course)
}

/** Makes a course of a file: lists, tags and fields that are not there are made, by name; what names something else that is not there is left out, and said. It stands there as a draft. */
export function bringCourse(context: WorkspaceContext, file: PortableCourse): BroughtCourse {
  const { db } = context
  return transact(context, () => {
    const made: string[] = []
    const lost: string[] = []
    const ids = new Map<string, number>()
    const key = (kind: ThingKind, id: number) => `${kind}/${id}`
    const found = (kind: ThingKind, id: string, rows: { id: number, name: string }[], name: string, make: (() => number) | null, words: string) => {
      const there = rows.find(row => row.name.toLowerCase() === name.toLowerCase())?.id ?? (make ? make() : undefined)
      if (!rows.some(row => row.id === there)) (there === undefined ? lost : made).push(`${words} “${name}”`)
      if (there !== undefined) ids.set(key(kind, Number(id)), there)
    }
    for (const [id, list] of entries(file.names.list)) found('list', id, allLists(db), list.name, () => saveList(context, null, list), 'the list')
    for (const [id, { name }] of entries(file.names.tag)) found('tag', id, allTags(db), name, () => saveTag(context, null, { name, note: '', group: '', colour: null, expiry: { kind: 'never' }, follows: NOTHING_FOLLOWS }), 'the tag')
    for (const [id, { name, label, kind }] of entries(file.names.field)) {
      if (!isFieldKind(kind)) throw new InputProblem([{ field: 'names', problem: `The field “${name}” is of a kind that is not known here.` }])
      const same = allFields(db).filter(field => field.kind === kind)
      found('field', id, same, name, allFields(db).some(field => field.name.toLowerCase() === name.toLowerCase() && field.kind !== kind) ? null : () => saveField(context, null, { name, label, kind, choices: [] }), 'the field')
    }
    for (const [id, { kind, name }] of entries(file.names.other)) found(kind, id, othersOf(db, kind), name, null, `${kind === 'hookOut' || kind === 'hookIn' ? 'the webhook' : `the ${kind}`}`)
    const unknown = (kind: ThingKind, id: number) => !ids.has(key(kind, id))
    const draft = mapIds(without(file.draft, unknown), (kind, id) => ids.get(key(kind, id)) ?? id)
    checkDraft(db, draft)
    const at = context.clock.now()
    const name = freeName(db, file.name)
    const id = insertCourse(db, name, draft, at)
    updateDraft(db, id, name, draft, at)
    return { id, name, made, lost }
  })
}

const entries = <Thing>(of: Record<string, Thing>): [string, Thing][] => Object.entries(of)

function freeName(db: Database, wanted: string): string {
  const taken = new Set(allCourses(db).map(({ name }) => name.toLowerCase()))
  const base = wanted.replace(/\s+/g, ' ').trim() || 'Course'
  for (let n = 1; ; n++) {
    const name = n === 1 ? base : `${base} (${n})`
    if (!taken.has(name.toLowerCase())) return name
  }
}

