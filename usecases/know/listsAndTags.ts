/** Lists are promises, tags are notes: making and renaming them. */
import type { TagInput } from '#core/people/tag'
import { isDate } from '#core/time/zone'
import { write } from '#data/connection'
import { findList, findListByName, findTag, findTagByName, insertList, insertTag, allLists, updateList, updateTag } from '#data/marks'
import type { House } from '../house'
import type { FieldProblem } from '../problem'
import { InputProblem, NotThere } from '../problem'

const tidy = (text: string) => text.replace(/\s+/g, ' ').trim()

export interface ListInput { name: string, publicName: string, description: string }

/** The workspace's first list takes everybody, also those who never joined it. */
export function saveList(house: House, id: number | null, input: ListInput): number {
  const { db } = house
  const row = { name: tidy(input.name), publicName: tidy(input.publicName) || tidy(input.name), description: tidy(input.description) }
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

/** A changed expiry counts for those who get the tag from now on. */
export function saveTag(house: House, id: number | null, input: TagInput): number {
  const { db } = house
  const row: TagInput = { ...input, name: tidy(input.name), note: tidy(input.note), group: tidy(input.group), colour: input.colour?.toLowerCase() ?? null }
  const problems: FieldProblem[] = []
  if (row.name === '') problems.push({ field: 'name', problem: 'Give the tag a name.' })
  if (row.expiry.kind === 'on' && !isDate(row.expiry.date)) problems.push({ field: 'expiry', problem: 'Choose a date of the calendar, like 2026-12-24.' })
  return write(db, () => {
    const other = findTagByName(db, row.name)
    if (other && other.id !== id) problems.push({ field: 'name', problem: `There is a tag called “${other.name}” already.` })
    if (problems.length > 0) throw new InputProblem(problems)
    if (id === null) return insertTag(db, row, house.clock.now())
    if (!findTag(db, id)) throw new NotThere('This tag is not there any more.')
    updateTag(db, id, row)
    return id
  })
}
