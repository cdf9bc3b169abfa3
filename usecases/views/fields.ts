/** The fields, with how many they are known of and what uses them. */
import type { FieldLine } from '#core/views/audience'
import { readTogether } from '#data/connection'
import { allFields, countValues } from '#data/fields'
import type { WorkspaceContext } from '../context'
import { readNamers, usesIn } from '../inner/uses'

export function fieldLines({ db }: WorkspaceContext): FieldLine[] {
  return readTogether(db, () => {
    const namers = readNamers(db)
    return allFields(db).map(field => ({
      ...field, people: countValues(db, field.id), uses: usesIn(namers, { kind: 'field', id: field.id }),
    }))
  })
}
