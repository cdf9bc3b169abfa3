/** What an import would do, row by row, without doing it. */
import { addressIn, readRow, type ImportSpec } from '#core/exchange/importing'
import { changeOf, knownAfter, type KnownPerson } from '#core/exchange/rowChange'
import { needsConsent } from '#core/people/country'
import { isGone } from '#core/people/status'
import type { ImportPlan } from '#core/views/imports'
import type { Database } from '#data/connection'
import { readTogether } from '#data/connection'
import { coursesStartedBy, findCourse } from '#data/courses'
import { importRowsAfter } from '#data/imports'
import { findListByName, findTagByName } from '#data/marks'
import { consentRule } from '#data/workspace'
import type { WorkspaceContext } from '../context'
import { knownPerson, prepareImport } from '../inner/importing'
import { checkedImport } from '../know/importPeople'

const BATCH = 1000
const FIRST = 50

export function importPlan(context: WorkspaceContext, { id, spec }: { id: number, spec: ImportSpec }): ImportPlan {
  const { db } = context
  return readTogether(db, () => {
    const importing = prepareImport(db, checkedImport(context, id, spec).columns, spec, context.clock.now())
    const rule = consentRule(db)
    const plan: ImportPlan = {
      new: 0, updated: 0, unchanged: 0, refused: 0, firstRefused: [], odd: 0, firstOdd: [], newTags: [], begins: [], gone: 0,
      newLists: [], withoutConsent: 0,
    }
    // Somebody who stands in several rows is known by the second. Most do not, and need not be kept.
    const twice = doubledKeys(db, id, spec)
    const met = new Map<string, KnownPerson>()
    const newTags = new Map<string, string>()
    const newLists = new Map<string, string>()
    const given = new Map<string, number>()
    const refuse = (row: number, address: string, problem: string) => {
      plan.refused++
      if (plan.firstRefused.length < FIRST) plan.firstRefused.push({ row, address, problem })
    }
    let rows = importRowsAfter(db, id, 0, BATCH)
    while (rows.length > 0) {
      for (const { rowNumber, cells } of rows) {
        const read = readRow(cells, importing.names, spec, importing.fields)
        if (!read.ok) {
          refuse(rowNumber, read.address, read.problem)
          continue
        }
        const { key } = read.row.address
        const known = met.get(key) ?? knownPerson(context, importing, key)?.known ?? null
        const change = changeOf(read.row, known, spec, importing.tags)
        if (change.outcome === 'refused') {
          refuse(rowNumber, read.row.address.shown, change.problem)
          continue
        }
        plan[change.outcome]++
        if (read.leftOut !== undefined) {
          plan.odd++
          if (plan.firstOdd.length < FIRST) plan.firstOdd.push({ row: rowNumber, address: read.row.address.shown, problem: read.leftOut })
        }
        if (twice.has(key)) met.set(key, knownAfter(known, change))
        if (change.outcome === 'new' && !change.consent && needsConsent(change.country, rule)) plan.withoutConsent++
        if (change.status !== null && isGone(change.status)) plan.gone++
        for (const list of [...change.lists, ...change.listsLeft]) {
          if (!newLists.has(list.toLowerCase()) && !findListByName(db, list)) newLists.set(list.toLowerCase(), list)
        }
        const begins = change.status === null || change.status === 'active'
        for (const tag of change.tags) {
          const word = tag.toLowerCase()
          if (!given.has(word) && !findTagByName(db, tag)) newTags.set(word, tag)
          if (begins) given.set(word, (given.get(word) ?? 0) + 1)
          else if (!given.has(word)) given.set(word, 0)
        }
      }
      rows = importRowsAfter(db, id, rows.at(-1)!.n, BATCH)
    }
    plan.newTags = [...newTags.values()]
    plan.newLists = [...newLists.values()]
    if (spec.starts) plan.begins = beginsOf(context, given)
    return plan
  })
}

/** Addresses that stand in more than one row. */
function doubledKeys(db: Database, id: number, { columns }: ImportSpec): Set<string> {
  const column = columns.findIndex(({ target }) => target.kind === 'address')
  const [seen, twice] = [new Set<string>(), new Set<string>()]
  let rows = importRowsAfter(db, id, 0, BATCH)
  while (rows.length > 0) {
    for (const { cells } of rows) {
      const checked = addressIn(cells[column] ?? '').address
      if (!checked.ok) continue
      if (seen.has(checked.address.key)) twice.add(checked.address.key)
      seen.add(checked.address.key)
    }
    rows = importRowsAfter(db, id, rows.at(-1)!.n, BATCH)
  }
  return twice
}

function beginsOf({ db }: WorkspaceContext, given: Map<string, number>): ImportPlan['begins'] {
  const people = new Map<number, number>()
  for (const [name, count] of given) {
    const tag = findTagByName(db, name)
    for (const courseId of tag ? coursesStartedBy(db, tag.id) : []) people.set(courseId, (people.get(courseId) ?? 0) + count)
  }
  return [...people].filter(([, count]) => count > 0)
    .map(([courseId, count]) => ({ course: findCourse(db, courseId)!.name, people: count }))
}
