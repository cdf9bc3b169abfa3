/** Whatever its owner has put away. */
import type { ThingKind } from '#core/things'
import { allArchived } from '#data/archive'
import type { Database } from '#data/connection'

/** What is put away asks for nothing. */
export function inSight<Row extends { id: number }>(db: Database, kind: ThingKind, rows: Row[]): Row[] {
  const away = new Set(allArchived(db).filter(thing => thing.kind === kind).map(({ id }) => id))
  return rows.filter(({ id }) => !away.has(id))
}
