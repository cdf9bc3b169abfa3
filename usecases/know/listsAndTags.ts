/** Lists are promises, tags are notes: making and renaming them. */
import { write } from '#data/connection'
import { findList, findListByName, findTag, findTagByName, insertList, insertTag, allLists, updateList, updateTag } from '#data/people'
import type { House } from '../house'
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

export interface TagInput { name: string, note: string }

export function saveTag(house: House, id: number | null, input: TagInput): number {
  const { db } = house
  const row = { name: tidy(input.name), note: tidy(input.note) }
  return write(db, () => {
    const other = findTagByName(db, row.name)
    if (row.name === '') throw new InputProblem([{ field: 'name', problem: 'Give the tag a name.' }])
    if (other && other.id !== id) throw new InputProblem([{ field: 'name', problem: `There is a tag called “${other.name}” already.` }])
    if (id === null) return insertTag(db, { ...row, createdAt: house.clock.now() })
    if (!findTag(db, id)) throw new NotThere('This tag is not there any more.')
    updateTag(db, id, row)
    return id
  })
}
