/** A copy of what was made, to be changed: it is at work nowhere, and nobody is in it, has it or is on it. */
import type { Thing, ThingKind } from '#core/things'
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
import { duplicateBroadcast } from '../broadcasts/save'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { createOffer } from '../offers/save'
import { NotThere } from '../problem'
import { listLines, tagLines } from '../views/listsAndTags'
import { saveField } from './fields'
import { saveLink } from './links'
import { saveList, saveTag } from './listsAndTags'
import { saveRule } from './rules'
import { saveSegment } from './segments'

type Copying = (context: WorkspaceContext, id: number) => number | Promise<number>

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
  page: (context, id) => createPage(context, nameOfCopy(findPage(context.db, id)!.name, among(allPages(context.db))), id),
  offer: (context, id) => createOffer(context, nameOfCopy(findOffer(context.db, id)!.name, among(allOffers(context.db))), id),
  broadcast: (context, id) => duplicateBroadcast(context, id),
  course(context, id) {
    const { db } = context
    const { name, draft } = findCourse(db, id)!
    return insertCourse(db, nameOfCopy(name, among(allCourses(db))), draft, context.clock.now())
  },
  segment(context, id) {
    const { name, note, condition } = findSegment(context.db, id)!
    return saveSegment(context, null, {
      name: nameOfCopy(name, copy => findSegmentByName(context.db, copy) !== undefined), note, condition,
    })
  },
  async rule(context, id) {
    const { when, who, then, often, note } = findRule(context.db, id)!
    // Its emails are made anew, as it is switched on.
    const anew = then.map(action => action.kind === 'email' ? { ...action, messageId: null } : action)
    const saved = await saveRule(context, null, { when, who, then: anew, often, note, on: false }, true)
    if (!saved.saved) throw new Error('A rule that is off goes in no circle')
    return saved.id
  },
  link(context, id) {
    const { name, url, note, does, asks } = findLink(context.db, id)!
    return saveLink(context, null, { name: nameOfCopy(name, among(linkNames(context.db))), url, note, does, asks })
  },
  tag(context, id) {
    const { name, note, group, colour, publicName, expiry, follows } = tagLines(context).find(tag => tag.id === id)!
    const copy = nameOfCopy(name, taken => findTagByName(context.db, taken) !== undefined)
    return saveTag(context, null, { name: copy, note, group, colour, publicName, expiry, follows })
  },
  list(context, id) {
    const { name, publicName, description, offered, alsoOn } = listLines(context).find(list => list.id === id)!
    return saveList(context, null, {
      name: nameOfCopy(name, taken => findListByName(context.db, taken) !== undefined), publicName, description, offered, alsoOn,
    })
  },
  field(context, id) {
    const { name, label, kind, choices } = findField(context.db, id)!
    return saveField(context, null, {
      name: nameOfCopy(name, taken => findFieldByName(context.db, taken) !== undefined), label, kind, choices,
    })
  },
}

/** Makes it, and returns its number. */
export async function copyThing(context: WorkspaceContext, { kind, id }: Thing): Promise<number> {
  const copy = COPYING[kind]
  if (!copy || !isThere(context.db, kind, id)) throw new NotThere('This no longer exists.')
  // A rule makes its emails before it writes: that cannot stand inside a transaction.
  return kind === 'rule' ? copy(context, id) : transact(context, () => copy(context, id) as number)
}
