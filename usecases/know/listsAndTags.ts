/** Lists are promises, tags are notes: making and renaming them, and what follows from a tag. */
import { hasBlanks, type TagInput } from '#core/people/tag'
import { circleIn, rulesOfTag, sayPath } from '#core/rules/rule'
import { isDate } from '#core/time/zone'
import type { Database } from '#data/connection'
import { write } from '#data/connection'
import { findList, findListByName, findTag, findTagByName, insertList, insertTag, allLists, updateList, updateTag } from '#data/marks'
import { allRules, deleteRule, insertRule } from '#data/rules'
import type { House } from '../house'
import type { FieldProblem } from '../problem'
import { InputProblem, NotThere } from '../problem'

const tidy = (text: string) => text.replace(/\s+/g, ' ').trim()

export interface ListInput {
  name: string
  publicName: string
  description: string
  /** Readers who never joined it can do so on their choices page. */
  offered?: boolean
}

/** The workspace's first list takes everybody, also those who never joined it. */
export function saveList(house: House, id: number | null, input: ListInput): number {
  const { db } = house
  const row = { name: tidy(input.name), publicName: tidy(input.publicName) || tidy(input.name), description: tidy(input.description), offered: input.offered ? 1 as const : 0 as const }
  return write(db, () => {
    const other = findListByName(db, row.name)
    if (row.name === '') throw new InputProblem([{ field: 'name', problem: 'Give the list a name.' }])
    if (other && other.id !== id) throw new InputProblem([{ field: 'name', problem: `There is a list called “${other.name}” already.` }])
    if (id === null) return insertList(db, { ...row, takesEverybody: allLists(db).length === 0 ? 1 : 0, createdAt: house.clock.now() })
    if (!findList(db, id)) throw new NotThere('This list is not there any more.')
    updateList(db, id, row)
    return id
  })
}

/** A changed expiry, and what follows, count for those who get or lose the tag from now on. */
export function saveTag(house: House, id: number | null, input: TagInput): number {
  const { db } = house
  const { follows } = input
  const row = { ...input, name: tidy(input.name), note: tidy(input.note), group: tidy(input.group), colour: input.colour?.toLowerCase() ?? null, publicName: tidy(input.publicName ?? '') || null }
  const problems: FieldProblem[] = []
  if (row.name === '') problems.push({ field: 'name', problem: 'Give the tag a name.' })
  if (row.name.replace(/\[(month|launch)\]/gi, '').match(/[[\]]/)) problems.push({ field: 'name', problem: 'Only [month] and [launch] can stand in brackets: they are filled in when the tag is given.' })
  if (row.publicName !== null && hasBlanks(row.name)) problems.push({ field: 'publicName', problem: 'A tag that is filled in anew each time cannot be taken by readers themselves.' })
  if (row.expiry.kind === 'on' && !isDate(row.expiry.date)) problems.push({ field: 'expiry', problem: 'Choose a date of the calendar, like 2026-12-24.' })
  return write(db, () => {
    const other = findTagByName(db, row.name)
    if (other && other.id !== id) problems.push({ field: 'name', problem: `There is a tag called “${other.name}” already.` })
    const before = id === null ? null : findTag(db, id)
    if (before === undefined) throw new NotThere('This tag is not there any more.')
    if (before && hasBlanks(before.name) !== hasBlanks(row.name)) problems.push({ field: 'name', problem: 'A tag keeps its blanks, or keeps having none: people have the filled-in ones. Make a new tag instead.' })
    if (problems.length > 0) throw new InputProblem(problems)
    const tagId = id ?? insertTag(db, row, house.clock.now())
    if (id !== null) updateTag(db, id, row)
    setFollows(db, tagId, follows)
    return tagId
  })
}

function setFollows(db: Database, tagId: number, follows: TagInput['follows']): void {
  for (const [field, ids] of Object.entries(follows)) {
    if (ids.includes(tagId)) throw new InputProblem([{ field: `follows.${field}`, problem: 'A tag cannot follow from itself.' }])
    if (ids.some((id: number) => !findTag(db, id))) throw new InputProblem([{ field: `follows.${field}`, problem: 'A tag is not there any more. Choose another one.' }])
  }
  const before = allRules(db)
  const own = before.filter(rule => rule.when.tagId === tagId)
  const wanted = rulesOfTag(tagId, follows)
  const circle = circleIn([...before.filter(rule => rule.when.tagId !== tagId), ...wanted])
  if (circle) throw new InputProblem([{ field: 'follows', problem: `That would go in a circle: ${sayPath(circle, id => findTag(db, id)?.name ?? 'a tag that is gone')}.` }])
  // A rule that stays keeps its number and its place in the order.
  const same = (a: object, b: object) => JSON.stringify(a) === JSON.stringify(b)
  for (const { id, ...rule } of own) if (!wanted.some(one => same(one, rule))) deleteRule(db, id)
  for (const rule of wanted) if (!own.some(({ id: _, ...one }) => same(one, rule))) insertRule(db, rule)
}
