/** What goes along of a thing by its name, and what of it is here. */
import type { Describe, PortableNames } from '#core/exchange/portable'
import { isFieldKind } from '#core/people/field'
import { NOTHING_FOLLOWS } from '#core/rules/shortForms'
import type { ThingKind } from '#core/things'
import { broadcastNames } from '#data/broadcasts'
import type { Database } from '#data/connection'
import { allCourses } from '#data/courses'
import { allParts } from '#data/emailParts'
import { allFields, findField } from '#data/fields'
import { hookNames } from '#data/hooks'
import { linkNames } from '#data/links'
import { allLists, allTags, findList, findTag } from '#data/marks'
import { offerNames } from '#data/offers'
import { pageNames } from '#data/pages'
import { allSegments } from '#data/segments'
import type { WorkspaceContext } from '../context'
import { namesOfRules } from '../inner/names'
import { InputProblem } from '../problem'
import { saveField } from './fields'
import { saveList, saveTag } from './listsAndTags'

export const describer = (db: Database): Describe => (kind, id) => {
  if (kind === 'list') {
    const list = findList(db, id)
    return list && { name: list.name, publicName: list.publicName, description: list.description }
  }
  if (kind === 'tag') return findTag(db, id)
  if (kind === 'field') {
    const field = findField(db, id)
    return field && { name: field.name, label: field.label, type: field.kind }
  }
  return othersOf(db, kind).find(one => one.id === id)
}

function othersOf(db: Database, kind: ThingKind): { id: number, name: string }[] {
  switch (kind) {
    case 'course': return allCourses(db)
    case 'offer': return offerNames(db)
    case 'page': return pageNames(db)
    case 'segment': return allSegments(db)
    case 'link': return linkNames(db)
    case 'part': return allParts(db)
    case 'broadcast': return broadcastNames(db)
    case 'rule': return namesOfRules(db)
    case 'hookIn': return hookNames(db).in
    case 'hookOut': return hookNames(db).out
    default: return []
  }
}

export interface Brought {
  /** What was made here for it, and what is not here, in words like `the tag “coptic”`. */
  made: string[]
  lost: string[]
  /** Whether it is here, by its number in the file; and by which number. */
  isHere(kind: ThingKind, id: number): boolean
  idOf(kind: ThingKind, id: number): number
}

/** Finds what a file names, in the caller's transaction: lists, tags and fields that are not there are made; others have to be there. */
export function bringNames(context: WorkspaceContext, names: PortableNames): Brought {
  const { db } = context
  const made: string[] = []
  const lost: string[] = []
  const ids = new Map<string, number>()
  const key = (kind: ThingKind, id: number) => `${kind}/${id}`
  const find = (kind: ThingKind, id: string, rows: {
    id: number, name: string,
  }[], name: string, make: (() => number) | null, words: string) => {
    const there = rows.find(row => row.name.toLowerCase() === name.toLowerCase())?.id ?? (make ? make() : undefined)
    if (!rows.some(row => row.id === there)) (there === undefined ? lost : made).push(`${words} “${name}”`)
    if (there !== undefined) ids.set(key(kind, Number(id)), there)
  }
  for (const [id, list] of Object.entries(names.list)) {
    find('list', id, allLists(db), list.name, () => saveList(context, null, list), 'the list')
  }
  for (const [id, { name }] of Object.entries(names.tag)) {
    const make = () =>
      saveTag(context, null, { name, note: '', group: '', colour: null, expiry: { kind: 'never' }, follows: NOTHING_FOLLOWS })
    find('tag', id, allTags(db), name, make, 'the tag')
  }
  for (const [id, { name, label, kind }] of Object.entries(names.field)) {
    if (!isFieldKind(kind)) {
      throw new InputProblem([{ field: 'names', problem: `The field “${name}” is of a kind that is not known here.` }])
    }
    const named = allFields(db).filter(field => field.name.toLowerCase() === name.toLowerCase())
    // One of this name that is of another kind is something else, and in the way.
    const make = named.some(field => field.kind !== kind) ? null : () => saveField(context, null, { name, label, kind, choices: [] })
    find('field', id, named.filter(field => field.kind === kind), name, make, 'the field')
  }
  for (const [id, { kind, name }] of Object.entries(names.other)) {
    find(kind, id, othersOf(db, kind), name, null, kind === 'hookOut' || kind === 'hookIn' ? 'the webhook' : `the ${kind}`)
  }
  return { made, lost, isHere: (kind, id) => ids.has(key(kind, id)), idOf: (kind, id) => ids.get(key(kind, id)) ?? id }
}
