/** What an import needs to know to read a row and to say what it changes. */
import type { ImportSpec } from '#core/exchange/importing'
import type { KnownPerson } from '#core/exchange/rowChange'
import type { Field } from '#core/people/field'
import { fillBlanks } from '#core/people/tag'
import { instantOf, type Instant, type LocalDate } from '#core/time/zone'
import type { Person } from '#core/views/people'
import type { Database } from '#data/connection'
import { findRemembered, isAnybodyRemembered } from '#data/erasing'
import { wasTakenOff } from '#data/events'
import { allFields, fieldsOfPerson } from '#data/fields'
import { standsFor } from '#data/markEnds'
import { findTag, listsOfPerson, tagsOfPerson } from '#data/marks'
import { findPerson, findPersonByKey } from '#data/people'
import { findByFormerKey } from '#data/sameness'
import { workspaceOf } from '#data/workspace'
import type { WorkspaceContext } from '../context'

export interface Importing {
  spec: ImportSpec
  /** The names of the columns. */
  names: string[]
  fields: Map<number, Field>
  /** The names of the tags that every row gets. */
  tags: string[]
  /** Whether anybody was erased who must not come back. */
  anybodyErased: boolean
  /** When consent was given that was given on a date: noon there, never later than now. */
  consentAt(date: LocalDate): Instant
}

export function prepareImport(db: Database, names: string[], spec: ImportSpec, at: Instant): Importing {
  const { zone } = workspaceOf(db)
  // One that was deleted while the import waits is left out; of one with blanks, everybody gets what it is filled in to.
  const tags = spec.tagIds.flatMap((tagId) => {
    const standing = standsFor(db, 'tags', tagId)
    return standing === null ? [] : [fillBlanks(findTag(db, standing)!.name, { at, zone, launch: null })]
  })
  const instants = new Map<LocalDate, Instant>()
  return {
    spec, names, fields: new Map(allFields(db).map(field => [field.id, field])), tags, anybodyErased: isAnybodyRemembered(db),
    consentAt(date) {
      let instant = instants.get(date)
      if (instant === undefined) instants.set(date, instant = Math.min(at, instantOf(date, '12:00', zone)))
      return instant
    },
  }
}

const ERASED: KnownPerson = {
  status: 'erased', firstName: '', country: null, zone: null, hasConsent: false, fields: new Map(), tags: new Set(), joined: new Set(),
  left: new Set(), joinedNames: new Set(), leftNames: new Set(),
}

/** Who has this address, or had it before; null for nobody. Someone erased is known only as not to come back. */
export function knownPerson(
  { db, signer }: WorkspaceContext, { anybodyErased }: Importing, addressKey: string,
): { id: number | null, known: KnownPerson } | null {
  const person = findPersonByKey(db, addressKey) ?? personOnceAt(db, addressKey)
  if (!person) return anybodyErased && findRemembered(db, signer.digest(addressKey)) ? { id: null, known: ERASED } : null
  const lists = listsOfPerson(db, person.id)
  const joined = lists.filter(list => list.leftAt === null)
  const left = lists.filter(list => list.leftAt !== null && !wasTakenOff(db, person.id, list.id))
  const small = (of: typeof lists) => new Set(of.map(list => list.name.toLowerCase()))
  return {
    id: person.id,
    known: {
      status: person.status, firstName: person.firstName, country: person.country, zone: person.zone, hasConsent: person.consentAt !== null,
      fields: new Map(fieldsOfPerson(db, person.id).map(({ fieldId, value }) => [fieldId, value])),
      tags: new Set(tagsOfPerson(db, person.id).map(tag => tag.name.toLowerCase())),
      joined: new Set(joined.map(list => list.id)), left: new Set(left.map(list => list.id)), joinedNames: small(joined),
      leftNames: small(left),
    },
  }
}

/** Who had this address before, until it was changed or merged away. */
export function personOnceAt(db: Database, addressKey: string): Person | undefined {
  const id = findByFormerKey(db, addressKey)
  return id === undefined ? undefined : findPerson(db, id)
}
