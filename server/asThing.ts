/** The thing that an address names by its kind and number. */
import { THING_WORDS, type Thing, type ThingKind } from '#core/things'
import { WEEKLY_KINDS, type WeeklyKind } from '#core/views/weeks'
import { NotThere } from '#usecases/problem'
import type { Asked } from './http'

export function thingOf({ id, param }: Pick<Asked, 'id' | 'param'>): Thing {
  const kind = param('kind')
  if (!Object.hasOwn(THING_WORDS, kind)) throw new NotThere('There is nothing at this address.')
  return { kind: kind as ThingKind, id: id() }
}

/** A kind whose things have a chart of their weeks. */
export function weeklyKind(kind: string): WeeklyKind {
  const known = WEEKLY_KINDS.find(one => one === kind)
  if (!known) throw new NotThere('There is nothing at this address.')
  return known
}
