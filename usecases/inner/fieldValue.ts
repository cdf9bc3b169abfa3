/** What is known of someone for a field. */
import type { FieldValue } from '#core/people/field'
import { fitsField } from '#core/people/field'
import type { Database } from '#data/connection'
import { appendEvent } from '#data/events'
import { fieldOfPerson, findField, setFieldValue } from '#data/fields'
import { InputProblem, NotThere } from '../problem'
import { catchUp, dateFieldsRunning, replanFor } from './enrolments'
import { how, type Cause } from './marks'

/** Sets or, with null, forgets what is known of someone. Does nothing if it is known already. Throws if the value does not fit. */
export function setField(db: Database, personId: number, fieldId: number, value: FieldValue | null, { at, ...cause }: Pick<Cause, 'at' | 'causeId' | 'byRule' | 'byCourse' | 'byProgram'>): boolean {
  const field = findField(db, fieldId)
  if (!field) throw new NotThere('This field is not there any more.')
  if (value !== null && !fitsField(field, value)) throw new InputProblem([{ field: `fields.${fieldId}`, problem: `This does not fit ${field.name}.` }])
  const before = fieldOfPerson(db, fieldId, personId)
  if (before === value) return false
  catchUp(db, personId, at)
  setFieldValue(db, fieldId, personId, value)
  const eventId = appendEvent(db, 'field-changed', at, { personId, fieldId, causeId: cause.causeId, detail: how(cause) ?? (value === null ? 'unknown' : undefined) }, {
    ...(before !== null && { from: String(before) }), ...(value !== null && { to: String(value) }),
  })
  // What goes by a date of theirs goes by the new one.
  if (field.kind === 'date' && dateFieldsRunning(db).includes(fieldId)) replanFor(db, personId, at, eventId, 'date')
  return true
}
