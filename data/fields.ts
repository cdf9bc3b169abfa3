/** Fields and what is known of people for them. */
import type { Field, FieldInput, FieldValue } from '#core/people/field'
import type { Instant } from '#core/time/zone'
import type { Database } from './connection'
import { prepare } from './connection'
import { keepSteady } from './kept'

type Raw = Omit<Field, 'choices'> & { choices: string }

const FIELD = 'SELECT f.id, f.name, f.label, f.kind, f.choices FROM fields f'

const parse = <Row extends Raw>(row: Row) => ({ ...row, choices: JSON.parse(row.choices) as string[] })

/** In the order they were made. */
export function allFields(db: Database): Field[] {
  return prepare<Raw>(db, `${FIELD} WHERE f.gone = 0 ORDER BY f.id`).all().map(parse)
}

export function countValues(db: Database, fieldId: number): number {
  return prepare<{ n: number }>(db, 'SELECT count(*) AS n FROM field_values WHERE field_id = ?').get(fieldId)!.n
}

export function countHaving(db: Database, fieldId: number, value: FieldValue): number {
  return prepare<{ n: number }>(db, 'SELECT count(*) AS n FROM field_values WHERE field_id = ? AND value = ?').get(fieldId, value)!.n
}

export function findField(db: Database, id: number): Field | undefined {
  return keepSteady(db, `field ${id}`, () => {
    const row = prepare<Raw>(db, `${FIELD} WHERE f.id = ? AND f.gone = 0`).get(id)
    return row && parse(row)
  })
}

export function findFieldByName(db: Database, name: string): Field | undefined {
  const row = prepare<Raw>(db, `${FIELD} WHERE f.name = ? AND f.gone = 0`).get(name)
  return row && parse(row)
}

export function insertField(db: Database, field: FieldInput, at: Instant): number {
  return Number(prepare(db, 'INSERT INTO fields (name, label, kind, choices, created_at) VALUES (?, ?, ?, ?, ?)').run(
    field.name, field.label, field.kind, JSON.stringify(field.choices), at,
  ).lastInsertRowid)
}

/** The kind stays what it was made as: values of another kind would fit nowhere. */
export function updateField(db: Database, id: number, field: FieldInput): void {
  prepare(db, 'UPDATE fields SET name = ?, label = ?, choices = ? WHERE id = ?').run(
    field.name, field.label, JSON.stringify(field.choices), id,
  )
}

/** Nothing finds it any more, and its name is free; what is known for it is cleared away later. */
export function endField(db: Database, id: number): void {
  prepare(db, `UPDATE fields SET gone = 1, name = 'gone ' || id WHERE id = ?`).run(id)
}

export function fieldsOfPerson(db: Database, personId: number): { fieldId: number, value: FieldValue }[] {
  return prepare<{ fieldId: number, value: FieldValue }>(db, `
    SELECT v.field_id AS fieldId, v.value FROM field_values v JOIN fields f ON f.id = v.field_id AND f.gone = 0
    WHERE v.person_id = ?`).all(personId)
}

export function fieldOfPerson(db: Database, fieldId: number, personId: number): FieldValue | null {
  return prepare<{ value: FieldValue }>(db, 'SELECT value FROM field_values WHERE field_id = ? AND person_id = ?').get(
    fieldId, personId,
  )?.value ?? null
}

/** Null for not known. */
export function setFieldValue(db: Database, fieldId: number, personId: number, value: FieldValue | null): void {
  if (value === null) prepare(db, 'DELETE FROM field_values WHERE field_id = ? AND person_id = ?').run(fieldId, personId)
  else prepare(db, `
    INSERT INTO field_values (field_id, person_id, value) VALUES (?, ?, ?) ON CONFLICT (field_id, person_id) DO UPDATE
    SET value = excluded.value`).run(fieldId, personId, value)
}
