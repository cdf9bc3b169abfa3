/** The fields, with how many they are known of and what uses them. */
import type { FieldLine } from '#core/views/audience'
import { readTogether } from '#data/connection'
import { allFields, countValues } from '#data/fields'
import type { House } from '../house'
import { usesOfField } from '../know/fields'

export function fieldLines({ db }: House): FieldLine[] {
  return readTogether(db, () => allFields(db).map(field => ({ ...field, people: countValues(db, field.id), ...usesOfField(db, field.id) })))
}
