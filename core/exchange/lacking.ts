/** What is brought in without what it names and is not there: conditions, and what stands in emails. */
import { isGroup, type Condition } from '#core/audience/condition'
import type { MessageContent } from '#core/message/content'
import { mapIds } from '#core/mentions'
import type { ThingKind } from '#core/things'

/** What is missing, by the numbers of the file. */
export type IsMissing = (kind: ThingKind, id: number) => boolean

/** Whether something of a definition names what is missing. */
export function namesMissing(value: unknown, is: IsMissing): boolean {
  let found = false
  mapIds(value, (kind, id) => {
    found ||= is(kind, id)
    return id
  })
  return found
}

/** Without its parts that ask for what is missing; where nothing is left of it, it holds of everybody. */
export function conditionWithout(who: Condition, is: IsMissing): Condition {
  if (!isGroup(who)) return namesMissing(who, is) ? { kind: 'all', of: [] } : who
  return { ...who, of: who.of.filter(part => isGroup(part) || !namesMissing(part, is)).map(part => conditionWithout(part, is)) }
}

/** Under these stands what an email can be without: an offer is chosen anew, a click gives no tag. */
const CAN_BE_NONE: Record<string, ThingKind> = { offerId: 'offer', tagId: 'tag' }

/** Conditions ask for less; offers and tags that are missing are chosen anew in their blocks. */
export function emailWithout(content: MessageContent, is: IsMissing): MessageContent {
  const freed = (value: unknown): unknown => {
    if (Array.isArray(value)) return value.map(freed)
    if (typeof value !== 'object' || value === null) return value
    return Object.fromEntries(Object.entries(value).map(([key, inner]: [string, unknown]) => {
      if (key === 'who') return [key, inner === null ? null : conditionWithout(inner as Condition, is)]
      const kind = CAN_BE_NONE[key]
      return [key, kind && typeof inner === 'number' && is(kind, inner) ? null : freed(inner)]
    }))
  }
  return freed(content) as MessageContent
}
