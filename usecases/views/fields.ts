/** The fields, with how many they are known of and what uses them. */
import type { FieldLine } from '#core/views/audience'
import { allFields, countValues } from '#data/fields'
import type { House } from '../house'
import { usesOfField } from '../know/fields'

export function fieldLines({ db }: House): FieldLine[] {
  return allFields(db).map(field => ({ ...field, people: countValues(db, field.id), ...usesOfField(db, field.id) }))
}
