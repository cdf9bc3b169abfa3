/** A table of people that comes in: what its columns mean, and what one row says. */
import { checkAddress, tidyName, type Address } from '#core/people/address'
import { readCountry, type CountryCode } from '#core/people/country'
import type { DateOrder, Field, FieldValue } from '#core/people/field'
import { readDate, readField } from '#core/people/field'
import { isZone, type LocalDate } from '#core/time/zone'
import { undefuse } from './csv'

export type Delimiter = ',' | ';' | '\t'
export const DELIMITER_WORDS: Record<Delimiter, string> = { ',': 'commas', ';': 'semicolons', '\t': 'tabs' }

/** What a column holds. Only `nothing` and `tags` may stand more than once. */
export type Target =
  | { kind: 'address' | 'first-name' | 'country' | 'zone' | 'tags' | 'consent-date' | 'nothing' }
  | { kind: 'field', fieldId: number }

export interface ImportColumn {
  target: Target
  /** How dates in this column are written. */
  dateOrder: DateOrder
}

export type ImportedConsent =
  /** Where and to what they agreed, in the owner's words; the date for all rows that have none of their own. */
  | { kind: 'given', origin: string, wording: string, date: LocalDate }
  | { kind: 'none' }

export interface ImportSpec {
  columns: ImportColumn[]
  listIds: number[]
  tagIds: number[]
  /** In words; see {@link sourceOf}. */
  source: string
  /** Whether the tags given may begin courses and wake rules. */
  starts: boolean
  /** What to do where something else is known already. */
  known: 'keep' | 'replace'
  consent: ImportedConsent
}

/** What stands as the source of new people: `import:spring fair`. */
export const sourceOf = ({ source }: Pick<ImportSpec, 'source'>) => `import:${source.trim()}`

/** The cells of one row, read. Null and absent say nothing; nothing that is known is ever taken away. */
export interface ImportedRow {
  address: Address
  firstName: string | null
  country: CountryCode | null
  zone: string | null
  fields: [fieldId: number, value: FieldValue][]
  tags: string[]
  consentDate: LocalDate | null
}

export type ReadRow = { ok: true, row: ImportedRow } | { ok: false, address: string, problem: string }

/** The names above the columns as they are shown: an empty one and a doubled one get a number. */
export function columnNames(cells: string[]): string[] {
  const seen = new Map<string, number>()
  return cells.map((cell, n) => {
    const name = cell.trim() || `column ${n + 1}`
    const times = (seen.get(name.toLowerCase()) ?? 0) + 1
    seen.set(name.toLowerCase(), times)
    return times === 1 ? name : `${name} (${times})`
  })
}

/** The sign that parts the first line outside its quotes most often; a comma if none does. */
export function guessDelimiter(head: string): Delimiter {
  const counts: Record<Delimiter, number> = { ',': 0, ';': 0, '\t': 0 }
  let quoted = false
  for (const char of head) {
    if (char === '"') quoted = !quoted
    else if (!quoted && (char === '\n' || char === '\r')) break
    else if (!quoted && char in counts) counts[char as Delimiter]++
  }
  return (['\t', ';', ','] as const).reduce<Delimiter>((best, one) => counts[one] > counts[best] ? one : best, ',')
}

/** In English, and as spreadsheets in German, French, Spanish, Portuguese, Italian and Dutch have it. */
const WORDS: [Target['kind'], RegExp][] = [
  ['address', /^(e ?mail|e ?mail ?address|address|mail|e ?mail ?adresse|adresse (e ?mail|électronique)|courriel|correo( electrónico)?|e ?mail ?adres)$/],
  ['first-name', /^(first ?name|given ?name|forename|name|first|vorname|prénom|nombre|nome|primeiro nome|voornaam)$/],
  ['country', /^(country|country code|nation|land|pays|país|paese)$/],
  ['zone', /^(time ?zone|zone|tz|zeitzone|fuseau horaire|zona horaria|fuso horário|fuso orario|tijdzone)$/],
  ['tags', /^(tags?|labels?|interests?)$/],
  ['consent-date', /^(consent|consent (date|given|recorded|at|time)|opt ?in (date|time|at)|confirmed (at|on)|opted in)$/],
]

/** What each column most likely holds, from its name and from what stands in it. */
export function guessColumns(names: string[], samples: string[][], fields: Field[]): ImportColumn[] {
  const taken = new Set<string>()
  const take = (target: Target): boolean => {
    const key = target.kind === 'field' ? `field ${target.fieldId}` : target.kind
    if (taken.has(key) && target.kind !== 'tags') return false
    taken.add(key)
    return true
  }
  const said = names.map((name): Target => {
    const word = name.toLowerCase().replace(/[^\p{L}\p{N}]+/gu, ' ').trim()
    const field = fields.find(one => [one.name, one.label].some(other => other.toLowerCase() === name.trim().toLowerCase()))
    const target: Target | undefined = field ? { kind: 'field', fieldId: field.id } : WORDS.map(([kind, words]) => words.test(word) ? { kind } as Target : undefined).find(Boolean)
    return target && take(target) ? target : { kind: 'nothing' }
  })
  if (!taken.has('address')) {
    const likely = samples.findIndex(cells => cells.length > 0 && cells.every(cell => checkAddress(cell).ok))
    if (likely >= 0) said[likely] = { kind: 'address' }
  }
  return said.map((target, n) => ({ target, dateOrder: guessDateOrder(samples[n] ?? []) }))
}

/** The order that reads every sample; day before month where both would, as most of the world writes. */
function guessDateOrder(samples: string[]): DateOrder {
  return (['year-month-day', 'day-month-year', 'month-day-year'] as const).find(order => samples.length > 0 && samples.every(cell => readDate(cell.trim(), order) !== null)) ?? 'day-month-year'
}

/** Problems of a spec as a whole, by the name of its part; none if it can be carried out. */
export function checkImportSpec(spec: ImportSpec, columns: number): { field: string, problem: string }[] {
  const problems: { field: string, problem: string }[] = []
  if (spec.columns.length !== columns) problems.push({ field: 'columns', problem: 'The columns do not fit this file. Drop it once more.' })
  const addresses = spec.columns.filter(({ target }) => target.kind === 'address').length
  if (addresses !== 1) problems.push({ field: 'columns', problem: addresses === 0 ? 'Say which column holds the email address: without one nobody can be told apart.' : 'Only one column can hold the email address.' })
  const once = spec.columns.map(({ target }) => target.kind === 'field' ? `field ${target.fieldId}` : target.kind).filter(key => !['nothing', 'tags', 'address'].includes(key))
  if (new Set(once).size < once.length) problems.push({ field: 'columns', problem: 'Two columns are to go to the same place. Leave one of them out.' })
  if (spec.source.trim() === '') problems.push({ field: 'source', problem: 'Give the source a name, like “spring fair 2026”.' })
  if (spec.consent.kind === 'given' && spec.consent.origin.trim() === '') problems.push({ field: 'consent', problem: 'Say where they agreed, like “on paper at the spring fair”; or that there is no record.' })
  if (spec.consent.kind === 'given' && spec.consent.wording.trim() === '') problems.push({ field: 'wording', problem: 'Say what they agreed to, in the words they saw.' })
  return problems
}

/** What one row says, or everything that is wrong with it. `names` are the columns' names, for the wording. */
export function readRow(cells: string[], names: string[], { columns }: Pick<ImportSpec, 'columns'>, fields: Map<number, Field>): ReadRow {
  const problems: string[] = []
  const row: Omit<ImportedRow, 'address'> = { firstName: null, country: null, zone: null, fields: [], tags: [], consentDate: null }
  const said = cells.map(cell => undefuse(cell).trim())
  const at = columns.findIndex(({ target }) => target.kind === 'address')
  const address = checkAddress(said[at] ?? '')
  if (!address.ok) problems.push((said[at] ?? '') === '' ? 'It has no email address.' : address.problem)
  if (said.slice(columns.length).some(cell => cell !== '')) problems.push(`It has ${cells.length} cells where the first line has ${columns.length}.`)
  columns.forEach(({ target, dateOrder }, n) => {
    const text = said[n] ?? ''
    if (text === '') return
    const wrong = (problem: string) => problems.push(`${names[n]}: ${problem}`)
    switch (target.kind) {
      case 'first-name':
        row.firstName = tidyName(text) || null
        break
      case 'country':
        row.country = readCountry(text)
        if (row.country === null) wrong(`“${shorten(text)}” is not a country; write it like Portugal or PT.`)
        break
      case 'zone':
        if (isZone(text)) row.zone = text
        else wrong(`a time zone looks like Europe/Lisbon, not “${shorten(text)}”.`)
        break
      case 'tags': {
        const tags = text.split(/[,;\n]/).map(tag => tag.replace(/\s+/g, ' ').trim()).filter(Boolean)
        const long = tags.find(tag => tag.length > 80)
        if (long) wrong(`the tag “${shorten(long)}” is longer than 80 letters.`)
        for (const tag of tags) if (!row.tags.some(other => other.toLowerCase() === tag.toLowerCase())) row.tags.push(tag)
        break
      }
      case 'consent-date':
        row.consentDate = readDate(text, dateOrder)
        if (row.consentDate === null) wrong(noDate(text, dateOrder))
        break
      case 'field': {
        const field = fields.get(target.fieldId)
        if (!field) return
        const read = readField(field, text, dateOrder)
        if (read.ok) row.fields.push([field.id, read.value])
        else wrong(field.kind === 'date' ? noDate(text, dateOrder) : read.problem)
        break
      }
    }
  })
  return problems.length > 0 || !address.ok ? { ok: false, address: said[at] ?? '', problem: problems.join(' ') } : { ok: true, row: { ...row, address: address.address } }
}

const ORDER_WORDS: Record<DateOrder, string> = { 'year-month-day': 'year, month, day', 'day-month-year': 'day, month, year', 'month-day-year': 'month, day, year' }
const noDate = (text: string, order: DateOrder) => `“${shorten(text)}” is not a date of the calendar, read as ${ORDER_WORDS[order]}.`
const shorten = (text: string) => text.length > 40 ? `${text.slice(0, 39)}…` : text

/* What a row changes */

/** What is known of someone, as far as an import asks. Tags by their name in small letters. */
export interface KnownPerson {
  gone: string | null
  firstName: string
  country: string | null
  zone: string | null
  hasConsent: boolean
  fields: Map<number, FieldValue>
  tags: Set<string>
  /** Lists they are on, and lists they have left themselves. */
  joined: Set<number>
  left: Set<number>
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
    /** True if consent is to be recorded. */
    consent: boolean
  }

const GONE_WORDS: Record<string, string> = {
  unsubscribed: 'They have unsubscribed. Only they can come back, by opting in again.',
  bounced: 'Their mail came back for good. Only they can come back, by opting in again.',
  complained: 'They have complained. Only they can come back, by opting in again.',
  erased: 'They were erased for good. Only they can come back, by opting in again.',
}

/** What importing a row would change; `known` is null for somebody new. `tags` are the names of those that every row gets. */
export function changeOf(row: ImportedRow, known: KnownPerson | null, spec: Pick<ImportSpec, 'listIds' | 'known' | 'consent'>, tags: string[]): RowChange {
  if (known?.gone) return { outcome: 'refused', problem: GONE_WORDS[known.gone]! }
  const fresh = <Value>(value: Value | null, before: Value | null): Value | null =>
    value === null || value === before || (before !== null && before !== '' && spec.known === 'keep') ? null : value
  const held = known?.tags ?? new Set()
  const wanted = [...tags, ...row.tags.filter(tag => !tags.some(other => other.toLowerCase() === tag.toLowerCase()))]
  const change = {
    firstName: fresh(row.firstName, known?.firstName ?? ''),
    country: fresh(row.country, known?.country ?? null),
    zone: fresh(row.zone, known?.zone ?? null),
    fields: row.fields.filter(([fieldId, value]) => fresh(value, known?.fields.get(fieldId) ?? null) !== null),
    tags: wanted.filter(tag => !held.has(tag.toLowerCase())),
    listIds: spec.listIds.filter(listId => !known?.joined.has(listId) && !known?.left.has(listId)),
    consent: spec.consent.kind === 'given' && !known?.hasConsent,
  }
  const changes = change.firstName !== null || change.country !== null || change.zone !== null || change.fields.length > 0 || change.tags.length > 0 || change.listIds.length > 0 || change.consent
  return { outcome: known === null ? 'new' : changes ? 'updated' : 'unchanged', ...change }
}

/** What is known of someone after a change that was not a refusal. */
export function knownAfter(known: KnownPerson | null, change: Exclude<RowChange, { outcome: 'refused' }>): KnownPerson {
  return {
    gone: null,
    firstName: change.firstName ?? known?.firstName ?? '',
    country: change.country ?? known?.country ?? null,
    zone: change.zone ?? known?.zone ?? null,
    hasConsent: change.consent || (known?.hasConsent ?? false),
    fields: new Map([...known?.fields ?? [], ...change.fields]),
    tags: new Set([...known?.tags ?? [], ...change.tags.map(tag => tag.toLowerCase())]),
    joined: new Set([...known?.joined ?? [], ...change.listIds]),
    left: known?.left ?? new Set(),
  }
}
