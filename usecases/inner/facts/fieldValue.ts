/** What is known of someone for a field. */
import type { FieldValue } from '#core/people/field'
import { fitsField } from '#core/people/field'
import type { Database } from '#data/connection'
import { appendEvent } from '#data/events'
import { fieldOfPerson, findField, setFieldValue } from '#data/fields'
import { InputProblem, NotThere } from '../../problem'
import { how, type Cause } from './cause'
import { catchUp } from './reacting'

/** Sets or, with null, forgets what is known of someone. Does nothing if it is known already. Throws if the value does not fit. */
export function setField(db: Database, personId: number, fieldId: number, value: FieldValue | null, cause: Cause): boolean {
  const field = findField(db, fieldId)
  if (!field) throw new NotThere('This field no longer exists.')
  if (value !== null && !fitsField(field, value)) {
    throw new InputProblem([{ field: `fields.${fieldId}`, problem: `This does not fit ${field.name}.` }])
  }
  const before = fieldOfPerson(db, fieldId, personId)
  if (before === value) return false
  const { at, causeId, ownAct } = cause
  catchUp(db, personId, at)
  setFieldValue(db, fieldId, personId, value)
  const detail = how(cause) ?? (value === null ? 'unknown' : undefined)
  appendEvent(db, 'field-changed', at, { personId, fieldId, causeId, ownAct, detail }, {
    ...(before !== null && { from: String(before) }), ...(value !== null && { to: String(value) }),
  })
  return true
}
