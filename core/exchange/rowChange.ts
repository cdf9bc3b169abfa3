/** What a row of a table that comes in changes about somebody who is known, or is not. */
import type { FieldValue } from '#core/people/field'
import { isGone, statusAfter, type Status, type StatusEvent } from '#core/people/status'
import type { ImportedRow, ImportSpec } from './importing'

/** What is known of someone, as far as an import asks. Tags by their name in small letters. */
export interface KnownPerson {
  /** Erased ones have none, and never come back by an import. */
  status: Status | 'erased'
  firstName: string
  country: string | null
  zone: string | null
  hasConsent: boolean
  fields: Map<number, FieldValue>
  tags: Set<string>
  /** Lists they are on, and lists they have left themselves. */
  joined: Set<number>
  left: Set<number>
  /** The same by their names in small letters, for what a row says by name. */
  joinedNames: Set<string>
  leftNames: Set<string>
}

export type RowChange =
  | { outcome: 'refused', problem: string }
  | {
    outcome: 'new' | 'updated' | 'unchanged'
    firstName: string | null
    country: string | null
    zone: string | null
    fields: [fieldId: number, value: FieldValue][]
    tags: string[]
    listIds: number[]
    /** By name; one that is not there yet is made. */
    lists: string[]
    listsLeft: string[]
    /** What is to be said of how things stand; null for nothing new. Somebody new is what it says. */
    status: Status | null
    /** True if consent is to be recorded. */
    consent: boolean
  }

const GONE_WORDS: Record<string, string> = {
  unsubscribed: 'They have unsubscribed. Only they can come back, by opting in again.',
  bounced: 'Their mail bounced for good. Only they can come back, by opting in again.',
  complained: 'They have complained. Only they can come back, by opting in again.',
  erased: 'They were erased for good. Only they can come back, by opting in again.',
}

/** What importing a row would change; `known` is null for somebody new. `tags` are the names of those that every row gets. */
export function changeOf(
  row: ImportedRow, known: KnownPerson | null, spec: Pick<ImportSpec, 'listIds' | 'known' | 'consent'>, tags: string[],
): RowChange {
  if (known?.status === 'erased') return { outcome: 'refused', problem: GONE_WORDS.erased! }
  const rowLeft = row.status !== null && isGone(row.status)
  // Who is gone here is left alone; that they are gone there, too, can only make it stricter.
  if (known && isGone(known.status as Status)) {
    if (!rowLeft) return { outcome: 'refused', problem: GONE_WORDS[known.status]! }
    const status = stricterThan(known.status as Status, row.status!)
    return {
      outcome: status ? 'updated' : 'unchanged', firstName: null, country: null, zone: null, fields: [], tags: [], listIds: [], lists: [],
      listsLeft: [], status, consent: false,
    }
  }
  const fresh = <Value>(value: Value | null, before: Value | null): Value | null =>
    value === null || value === before || (before !== null && before !== '' && spec.known === 'keep') ? null : value
  const held = known?.tags ?? new Set()
  const wanted = [...tags, ...row.tags.filter(tag => !tags.some(other => other.toLowerCase() === tag.toLowerCase()))]
  const has = (names: Set<string> | undefined, name: string) => names?.has(name.toLowerCase()) ?? false
  const listsLeft = row.listsLeft.filter(list => !has(known?.leftNames, list))
  const change = {
    firstName: fresh(row.firstName, known?.firstName ?? ''),
    country: fresh(row.country, known?.country ?? null),
    zone: fresh(row.zone, known?.zone ?? null),
    fields: row.fields.filter(([fieldId, value]) => fresh(value, known?.fields.get(fieldId) ?? null) !== null),
    tags: wanted.filter(tag => !held.has(tag.toLowerCase())),
    // Who has left joins nothing new that every row gets; what they were on where they come from is kept as it was.
    listIds: rowLeft ? [] : spec.listIds.filter(listId => !known?.joined.has(listId) && !known?.left.has(listId)),
    lists: row.lists.filter(list => !has(known?.joinedNames, list) && !has(known?.leftNames, list)
      && !row.listsLeft.some(left => left.toLowerCase() === list.toLowerCase())),
    listsLeft,
    // Of somebody known only a leaving counts: an import makes nobody active who is not, and puts nobody to rest.
    status: known === null ? row.status : rowLeft ? stricterThan(known.status as Status, row.status!) : null,
    consent: spec.consent.kind === 'given' && !known?.hasConsent && row.status !== 'pending',
  }
  const changes = change.firstName !== null || change.country !== null || change.zone !== null || change.fields.length
    + change.tags.length + change.listIds.length > 0
    || change.lists.length + listsLeft.length > 0 || change.status !== null || change.consent
  return { outcome: known === null ? 'new' : changes ? 'updated' : 'unchanged', ...change }
}

const stricterThan = (status: Status, said: Status): Status | null => {
  const after = statusAfter(status, said as StatusEvent)
  return after === status ? null : after
}

/** What is known of someone after a change that was not a refusal. */
export function knownAfter(known: KnownPerson | null, change: Exclude<RowChange, { outcome: 'refused' }>): KnownPerson {
  const small = (names: string[]) => names.map(name => name.toLowerCase())
  const leftNames = new Set([...known?.leftNames ?? [], ...small(change.listsLeft)])
  return {
    status: change.status ?? known?.status ?? 'active',
    firstName: change.firstName ?? known?.firstName ?? '',
    country: change.country ?? known?.country ?? null,
    zone: change.zone ?? known?.zone ?? null,
    hasConsent: change.consent || (known?.hasConsent ?? false),
    fields: new Map([...known?.fields ?? [], ...change.fields]),
    tags: new Set([...known?.tags ?? [], ...small(change.tags)]),
    joined: new Set([...known?.joined ?? [], ...change.listIds]),
    left: known?.left ?? new Set(),
    joinedNames: new Set([...known?.joinedNames ?? [], ...small(change.lists)].filter(name => !leftNames.has(name))),
    leftNames,
  }
}
