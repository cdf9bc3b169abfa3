/** What the end of a thing would mean: what names it, how many people that is about, and what could take its place. */
import type { Thing, ThingKind } from '#core/things'
import { isSameKind, sayWithout } from '#core/uses'
import type { Use } from '#core/views/marks'
import type { EndingView } from '#core/views/ending'
import type { Database } from '#data/connection'
import { broadcastNames } from '#data/broadcasts'
import { readTogether } from '#data/connection'
import { allParts } from '#data/emailParts'
import { findField } from '#data/fields'
import { isThere } from '#data/things'
import type { WorkspaceContext } from '../context'
import { namesOfRules, ruleNamesOf } from '../inner/names'
import { blockedBy, peopleIn, usesOf } from '../inner/uses'
import { NotThere } from '../problem'

export function endingView({ db }: WorkspaceContext, thing: Thing): EndingView {
  return readTogether(db, () => {
    if (!isThere(db, thing.kind, thing.id)) throw new NotThere('This no longer exists.')
    const uses = usesOf(db, thing)
    const rules = uses.some(({ kind }) => kind === 'rule') ? new Map(namesOfRules(db).map(({ id, name }) => [id, name])) : null
    return {
      uses: strictest(uses).map(use => ({
        ...use, name: use.kind === 'rule' ? rules?.get(use.id) ?? use.name : use.name, people: peopleIn(db, use), without: sayWithout(
          use.kind, use
        ),
      })),
      blocked: blockedBy(uses).length > 0,
      others: othersOf(db, thing),
    }
  })
}

/** Of each namer only what weighs most: named twice, it is still one thing that goes on without, or cannot. */
function strictest(uses: Use[]): Use[] {
  return uses.filter((use, n) =>
    uses.findIndex(({ kind, id, needs }) => kind === use.kind && id === use.id && needs === isNeededBy(uses, use)) === n)
}
const isNeededBy = (uses: Use[], { kind, id }: Use): boolean => uses.some(one => one.kind === kind && one.id === id && one.needs)

function othersOf(db: Database, { kind, id }: Thing): { id: number, name: string }[] {
  const names = ruleNamesOf(db)
  const all: Record<ThingKind, () => Iterable<readonly [number, string]>> = {
    page: () => names.pages, list: () => names.lists, tag: () => names.tags, link: () => names.links, offer: () => names.offers,
    segment: () => names.segments, hookIn: () => names.hooksIn, hookOut: () => names.hooksOut,
    broadcast: () => broadcastNames(db).map(one => [one.id, one.name] as const),
    part: () => allParts(db).map(part => [part.id, part.name] as const),
    rule: () => namesOfRules(db).map(rule => [rule.id, rule.name] as const),
    course: () => [...names.courses].map(([courseId, { name }]) => [courseId, name] as const),
    field: () => [...names.fields].filter(([fieldId]) => isSameKind(findField(db, fieldId)!, findField(db, id)!)).map(([
      fieldId, { name },
    ]) => [fieldId, name] as const),
  }
  return [...all[kind]()].filter(([other]) => other !== id).map(([other, name]) => ({ id: other, name }))
}
