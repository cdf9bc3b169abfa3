/** The columns an export of people can have. */
import type { Field } from '#core/people/field'
import { sayField } from '#core/people/field'
import type { ListedPerson } from '#core/views/people'
import type { Instant } from '#core/time/zone'
import { joinNames } from './csv'

export interface ExportColumn { id: string, name: string, of(person: ListedPerson): string }

/** Instants as ISO 8601 in UTC: whoever reads the file knows no workspace. */
const iso = (at: Instant | null, say: (at: Instant) => string) => at === null ? '' : say(at)

export function exportColumns(fields: Field[], sayInstant: (at: Instant) => string): ExportColumn[] {
  return [
    { id: 'address', name: 'email', of: person => person.address },
    { id: 'firstName', name: 'first name', of: person => person.firstName },
    { id: 'status', name: 'status', of: person => person.status },
    { id: 'tags', name: 'tags', of: person => joinNames(person.tags) },
    { id: 'lists', name: 'lists', of: person => joinNames(person.lists) },
    { id: 'left', name: 'lists left', of: person => joinNames(person.listsLeft) },
    { id: 'source', name: 'source', of: person => person.source },
    { id: 'country', name: 'country', of: person => person.country ?? '' },
    { id: 'zone', name: 'time zone', of: person => person.zone ?? '' },
    { id: 'consent', name: 'consent recorded', of: person => iso(person.consentAt, sayInstant) },
    { id: 'read', name: 'last read', of: person => iso(person.readAt, sayInstant) },
    ...fields.map((field): ExportColumn => ({
      id: `field-${field.id}`, name: field.name,
      of: ({ fields }) => {
        const value = fields[field.id]
        // Codes rather than names of countries and zones: they are what an import reads back without guessing.
        return value === undefined ? '' : field.kind === 'yes-no' ? sayField(field.kind, value) : String(value)
      },
    })),
    { id: 'since', name: 'arrived', of: person => iso(person.createdAt, sayInstant) },
  ]
}
