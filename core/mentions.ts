/**
 * What a definition names, and another put in its place.
 *
 * Every id of a thing stands under a key that ends in what it is the id of (`tagId`, `wayInListIds`); only what wakes
 * or is waited for (`thingId`) and a send (`ownerId`) say its kind in words. So one walk finds all that a page, an offer, a course, a
 * segment, a rule or a link names, also what is added to them later.
 */
import { SEND_KINDS, type SendKindName } from '#core/sending/kinds'
import { TRIGGERS, type Trigger } from '#core/rules/rule'
import { THING_WORDS, type Thing, type ThingKind } from '#core/things'

export interface Mention {
  thing: Thing
  /** The keys that lead to it; places in lists are left out. */
  path: string[]
  /** It stands in a condition, or in what wakes or is waited for: without it something else would happen, and nobody would know. */
  asked: boolean
}

export interface Replacement {
  kind: ThingKind
  from: number
  /** Null takes it out wherever that leaves something whole. */
  to: number | null
}

type Json = unknown
type Branch = Record<string, Json>

const ENDS: Record<string, ThingKind> = {
  hook: 'hookOut',
  ...Object.fromEntries(Object.keys(THING_WORDS).filter(kind => !kind.startsWith('hook')).map(kind => [kind, kind as ThingKind]))
}
const KEY = new RegExp(`^(?:|.*[a-z](?=[A-Z]))(${Object.keys(ENDS).join('|')})Ids?$`, 'i')

/** What an id under this key is the id of; null for ids of steps, files and the like, which live and die with their owner. */
const kindOf = (key: string): ThingKind | null => ENDS[KEY.exec(key)?.[1]?.toLowerCase() ?? ''] ?? null

/** Conditions, and what wakes or is waited for, stand under these. */
const ASKING = new Set(['who', 'entry', 'until', 'condition', 'waysOut'])
const isBranch = (value: Json): value is Branch => typeof value === 'object' && value !== null && !Array.isArray(value)
const isWhen = (branch: Branch): boolean => 'thingId' in branch && (branch.kind as string) in TRIGGERS
/** Where the kind is said in words: under which key, and of what; null where it is not. */
function inWords(branch: Branch): { key: 'thingId' | 'ownerId', thing: ThingKind | null } | null {
  if (isWhen(branch)) return { key: 'thingId', thing: TRIGGERS[(branch as unknown as Trigger).kind].thing }
  if ('ownerId' in branch && (branch.kind as string) in SEND_KINDS) {
    return { key: 'ownerId', thing: SEND_KINDS[branch.kind as SendKindName].owner }
  }
  return null
}

/** All that it names, in reading order; the same thing as often as it is named. */
export function mentionsIn(definition: Json): Mention[] {
  const found: Mention[] = []
  const walk = (value: Json, path: string[], asked: boolean): void => {
    if (Array.isArray(value)) for (const part of value) walk(part, path, asked)
    if (!isBranch(value)) return
    const said = inWords(value)
    if (said?.thing && value[said.key] !== null) {
      found.push({ thing: { kind: said.thing, id: value[said.key] as number }, path, asked: true })
    }
    for (const [key, part] of Object.entries(value)) {
      const kind = kindOf(key)
      const here = [...path, key]
      if (kind === null) walk(part, here, asked || ASKING.has(key))
      else for (const id of [part].flat()) if (typeof id === 'number') found.push({ thing: { kind, id }, path: here, asked })
    }
  }
  walk(definition, [], false)
  return found
}

export type IdMap = (kind: ThingKind, id: number) => number

/** The same with every number of a thing replaced. */
export function mapIds<Value>(value: Value, map: IdMap): Value {
  if (Array.isArray(value)) return value.map(one => mapIds(one as unknown, map)) as Value
  if (!isBranch(value)) return value
  return Object.fromEntries(Object.entries(value).map(([key, inner]) => {
    const said = inWords(value)
    const thing = key === said?.key ? said.thing : kindOf(key)
    if (thing === null) return [key, mapIds(inner as unknown, map)]
    if (typeof inner === 'number') return [key, map(thing, inner)]
    return [key, Array.isArray(inner) ? inner.map(id => map(thing, id as number)) : inner]
  })) as Value
}

/** Acts that are done in order: one that names what is gone is left out. */
const ACTS = new Set(['then', 'onFinish', 'does'])
/** Where nothing may stand instead; conditions and acts are told apart by their `kind`. */
const MAY_BE_NULL = new Set(['tagId', 'linkId', 'courseId', 'listId'])

/** The same with another in its place; lists of ids name it once. What asks for it is left as it is where nothing takes its place. */
export function replacedIn<Definition>(definition: Definition, what: Replacement): Definition {
  const { kind, from, to } = what
  const one = (id: Json) => id === from && to !== null ? to : id
  const walk = (value: Json): Json => {
    if (Array.isArray(value)) return value.map(walk)
    if (!isBranch(value)) return value
    const now = Object.fromEntries(Object.entries(value).map(([key, part]) => {
      if (to === null && ASKING.has(key)) return [key, part]
      if (kindOf(key) !== kind) {
        return [key, to === null && ACTS.has(key) ? (walk(part) as Json[]).filter(act => !names(act, what)) : walk(part)]
      }
      if (Array.isArray(part)) return [key, [...new Set(part.flatMap(id => id === from && to === null ? [] : [one(id)]))]]
      return [key, to === null && part === from && MAY_BE_NULL.has(key) && !('kind' in value) ? null : one(part)]
    }))
    const said = inWords(now)
    return said?.thing === kind ? { ...now, [said.key]: one(now[said.key]) } : now
  }
  return walk(definition) as Definition
}

/** Whether an act itself does something with it. */
const names = (act: Json, { kind, from }: Replacement): boolean =>
  isBranch(act) && Object.entries(act).some(([key, part]) => kindOf(key) === kind && part === from)
