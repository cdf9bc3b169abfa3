/** A copy of what was made, to be changed: it is at work nowhere, and nobody is in it, has it or is on it. */
import type { Thing, ThingKind } from '#core/rules/rule'
import { allCourses, findCourse, insertCourse } from '#data/courses'
import { findField, findFieldByName } from '#data/fields'
import { findLink, linkNames } from '#data/links'
import { findListByName, findTagByName } from '#data/marks'
import { allOffers, findOffer } from '#data/offers'
import { allPages, findPage } from '#data/pages'
import { findRule } from '#data/rules'
import { findSegment, findSegmentByName } from '#data/segments'
import { isThere } from '#data/things'
import { createPage } from '../arrive/pages'
import type { House } from '../house'
import { write } from '../inner/transaction'
import { createOffer } from '../offers/save'
import { NotThere } from '../problem'
import { listLines, tagLines } from '../views/listsAndTags'
import { saveField } from './fields'
import { saveLink } from './links'
import { saveList, saveTag } from './listsAndTags'
import { saveRule } from './rules'
import { saveSegment } from './segments'

type Copying = (house: House, id: number) => number | Promise<number>

/** `Sheet kit, copy`, `Sheet kit, copy 2`: the first that nothing of its kind is called. */
function nameOfCopy(name: string, isTaken: (name: string) => boolean): string {
  for (let n = 1; ; n++) {
    const end = n === 1 ? ', copy' : `, copy ${n}`
    const copy = `${[...name].slice(0, 80 - end.length).join('')}${end}`
    if (!isTaken(copy)) return copy
  }
}

const among = (rows: readonly { name: string }[]) => (name: string) => rows.some(row => row.name.toLowerCase() === name.toLowerCase())

const COPYING: Partial<Record<ThingKind, Copying>> = {
  page: (house, id) => createPage(house, nameOfCopy(findPage(house.db, id)!.name, among(allPages(house.db))), id),
  offer: (house, id) => createOffer(house, nameOfCopy(findOffer(house.db, id)!.name, among(allOffers(house.db))), id),
  course(house, id) {
    const { db } = house
    const { name, draft } = findCourse(db, id)!
    return insertCourse(db, nameOfCopy(name, among(allCourses(db))), draft, house.clock.now())
  },
  segment(house, id) {
    const { name, note, condition } = findSegment(house.db, id)!
    return saveSegment(house, null, { name: nameOfCopy(name, copy => findSegmentByName(house.db, copy) !== undefined), note, condition })
  },
  async rule(house, id) {
    const { when, who, then, often, note } = findRule(house.db, id)!
    // Its emails are made anew, as it is switched on.
    const anew = then.map(action => action.kind === 'email' ? { ...action, messageId: null } : action)
    const saved = await saveRule(house, null, { when, who, then: anew, often, note, on: false }, true)
    if (!saved.saved) throw new Error('A rule that is off goes in no circle')
    return saved.id
  },
  link(house, id) {
    const { name, url, note, does, asks } = findLink(house.db, id)!
    return saveLink(house, null, { name: nameOfCopy(name, among(linkNames(house.db))), url, note, does, asks })
  },
  tag(house, id) {
    const { name, note, group, colour, publicName, expiry, follows } = tagLines(house).find(tag => tag.id === id)!
    const copy = nameOfCopy(name, taken => findTagByName(house.db, taken) !== undefined)
    return saveTag(house, null, { name: copy, note, group, colour, publicName, expiry, follows })
  },
  list(house, id) {
    const { name, publicName, description, offered, alsoOn } = listLines(house).find(list => list.id === id)!
    return saveList(house, null, { name: nameOfCopy(name, taken => findListByName(house.db, taken) !== undefined), publicName, description, offered, alsoOn })
  },
  field(house, id) {
    const { name, label, kind, choices } = findField(house.db, id)!
    return saveField(house, null, { name: nameOfCopy(name, taken => findFieldByName(house.db, taken) !== undefined), label, kind, choices })
  },
}

/** Makes it, and returns its number. */
export async function copyThing(house: House, { kind, id }: Thing): Promise<number> {
  const copy = COPYING[kind]
  if (!copy || !isThere(house.db, kind, id)) throw new NotThere('This is not there any more.')
  // A rule makes its emails before it writes: that cannot stand inside a transaction.
  return kind === 'rule' ? copy(house, id) : write(house, () => copy(house, id) as number)
}
