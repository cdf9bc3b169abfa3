/** Which things there are, for telling whether a rule still has everything it names. */
import type { ThingKind } from '#core/things'
import type { Database } from './connection'
import { prepare } from './connection'

const THERE: Record<ThingKind, string> = {
  page: 'SELECT 1 FROM pages WHERE id = ? AND gone_at IS NULL',
  list: 'SELECT 1 FROM lists WHERE id = ? AND gone IS NULL',
  tag: 'SELECT 1 FROM tags WHERE id = ? AND gone IS NULL',
  field: 'SELECT 1 FROM fields WHERE id = ? AND gone = 0',
  link: 'SELECT 1 FROM links WHERE id = ? AND ended_at IS NULL',
  course: 'SELECT 1 FROM courses WHERE id = ? AND gone_at IS NULL',
  offer: 'SELECT 1 FROM offers WHERE id = ? AND gone_at IS NULL',
  segment: 'SELECT 1 FROM segments WHERE id = ? AND watch IS NULL AND gone = 0',
  hookIn: 'SELECT 1 FROM hooks_in WHERE id = ? AND ended_at IS NULL',
  hookOut: 'SELECT 1 FROM hooks_out WHERE id = ? AND ended_at IS NULL',
  rule: 'SELECT 1 FROM rules WHERE id = ? AND ended_at IS NULL',
  broadcast: 'SELECT 1 FROM broadcasts WHERE id = ? AND gone_at IS NULL',
  part: 'SELECT 1 FROM email_parts WHERE id = ? AND gone_at IS NULL',
}

/** What a thing is called, of those whose name stands in their own row. */
const NAME = {
  course: 'SELECT name FROM courses WHERE id = ?', page: 'SELECT name FROM pages WHERE id = ?',
  offer: 'SELECT name FROM offers WHERE id = ?',
  broadcast: 'SELECT name FROM broadcasts WHERE id = ?',
} as const

/** Undefined where there never was such a thing; one that is gone keeps its name. */
export function nameOfThing(db: Database, kind: keyof typeof NAME, id: number): string | undefined {
  return prepare<{ name: string }>(db, NAME[kind]).get(id)?.name
}

export function isThere(db: Database, kind: ThingKind, id: number): boolean {
  return prepare(db, THERE[kind]).get(id) !== undefined
}
