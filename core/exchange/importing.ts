/** A table of people that comes in: what its columns mean, and what one row says. */
import { checkAddress, tidyName, type Address, type AddressCheck } from '#core/people/address'
import { readCountry, type CountryCode } from '#core/people/country'
import type { DateOrder, Field, FieldValue } from '#core/people/field'
import { readDate, readField } from '#core/people/field'
import { isGone, strictest, type Status } from '#core/people/status'
import { isZone, type LocalDate } from '#core/time/zone'
import { partNames, undefuse } from './csv'

export type Delimiter = ',' | ';' | '\t'
export const DELIMITER_WORDS: Record<Delimiter, string> = { ',': 'commas', ';': 'semicolons', '\t': 'tabs' }

/**
 * What a column holds; `unsubscribed` is one that is filled in for those who left. Only `nothing`, `tags`, `lists` and `lists-left` may
 * stand more than once.
 */
export const TARGET_KINDS = [
  'address', 'first-name', 'country', 'zone', 'tags', 'lists', 'lists-left', 'status', 'unsubscribed', 'consent-date', 'nothing',
] as const
export type Target =
  | { kind: typeof TARGET_KINDS[number] }
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
  /** What to do with a row that has an address and a cell that cannot be read; left out: refuse it, as imports begun before did. */
  oddCells?: 'leave-out' | 'refuse'
  /** What to do where something else is known already. */
  known: 'keep' | 'replace'
  consent: ImportedConsent
  /** The owner has said that a column which looks like it tells who has left does not. */
  nobodyLeft?: boolean
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
  /** Lists by name: those they are on, and those they have left. */
  lists: string[]
  listsLeft: string[]
  /** How things stand with them where the file comes from. */
  status: Status | null
  consentDate: LocalDate | null
}

/** `leftOut`: what is wrong with the cells that it comes in without. */
export type ReadRow = { ok: true, row: ImportedRow, leftOut?: string } | { ok: false, address: string, problem: string }

/** The names above the columns as they are shown: an empty one and a doubled one get a number. */
export function columnNames(cells: string[]): string[] {
  const seen = new Map<string, number>()
  return cells.map((cell, n) => {
    const name = undefuse(cell).trim() || `column ${n + 1}`
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
  [
    'address',
    /^(e ?mail|e ?mail ?address|address|mail|e ?mail ?adresse|adresse (e ?mail|électronique)|courriel|correo( electrónico)?|e ?mail ?adres)$/,
  ],
  ['first-name', /^(first ?name|given ?name|forename|name|first|vorname|prénom|nombre|nome|primeiro nome|voornaam)$/],
  ['country', /^(country|country code|nation|land|pays|país|paese)$/],
  ['zone', /^(time ?zone|zone|tz|zeitzone|fuseau horaire|zona horaria|fuso horário|fuso orario|tijdzone)$/],
  ['tags', /^(tags?|labels?|interests?)$/],
  ['lists', /^(lists?|audiences?|groups?)$/],
  ['lists-left', /^lists? left$/],
  ['status', /^((email |subscri(ber|ption) |contact )?(status|state)|subscribed|estado|statut|stato)$/],
  [
    'unsubscribed',
    /^(unsubscribed|unsubscribe|opted out|opt ?out|unsubscribed (at|on|date|time)|opt ?out (date|time|at)|date (of )?unsubscri(bed|ption)|abgemeldet( am)?|désabonné|desuscrito|dado de baja)$/,
  ],
  ['consent-date', /^(consent|consent (date|given|recorded|at|time)|opt ?in (date|time|at)|confirmed (at|on)|opted in)$/],
]

/** What more than one column may hold. */
const MANY = new Set<string>(['nothing', 'tags', 'lists', 'lists-left'] satisfies Target['kind'][])

/** What each column most likely holds, from its name and from what stands in it. */
export function guessColumns(names: string[], samples: string[][], fields: Field[]): ImportColumn[] {
  const taken = new Set<string>()
  const take = (target: Target): boolean => {
    const key = target.kind === 'field' ? `field ${target.fieldId}` : target.kind
    if (taken.has(key) && !MANY.has(target.kind)) return false
    taken.add(key)
    return true
  }
  const said = names.map((name): Target => {
    const word = name.toLowerCase().replace(/[^\p{L}\p{N}]+/gu, ' ').trim()
    const field = fields.find(one => [one.name, one.label].some(other => other.toLowerCase() === name.trim().toLowerCase()))
    const target: Target | undefined = field
      ? { kind: 'field', fieldId: field.id }
      : WORDS.map(([kind, words]) => words.test(word) ? { kind } as Target : undefined).find(Boolean)
    return target && take(target) ? target : { kind: 'nothing' }
  })
  if (!taken.has('address')) {
    const likely = samples.findIndex(cells => cells.length > 0 && cells.every(cell => addressIn(cell).address.ok))
    if (likely >= 0) said[likely] = { kind: 'address' }
  }
  // Whatever it is called: a column that says of people that they have left is how things stand with them.
  const status = said.findIndex((target, n) => target.kind === 'nothing' && tellsWhoLeft(samples[n] ?? []))
  if (status >= 0 && take({ kind: 'status' })) said[status] = { kind: 'status' }
  return said.map((target, n) => ({ target, dateOrder: guessDateOrder(samples[n] ?? []) }))
}

/** True if every cell is a status, and some say that somebody is gone. */
const tellsWhoLeft = (cells: string[]): boolean =>
  cells.length > 0 && cells.every(cell => readStatus(cell) !== null) && cells.some(cell => isGone(readStatus(cell)!))

/** True for a column that seems to tell who has left, by its name or by what stands in it. */
export const seemsToTellWhoLeft = (name: string, samples: string[]): boolean =>
  ['status', 'unsubscribed'].includes(guessColumns([name], [[]], [])[0]!.target.kind) || tellsWhoLeft(samples)

/** The words in which tables say how things stand with somebody; common practice, no source. Whatever else it says is not guessed at. */
const STATUS_WORDS: [Status, RegExp][] = [
  ['active', /^(active|subscribed|confirmed|opted in|opt in|aktiv|actif|activo|ativo|attivo)$/],
  ['pending', /^(pending|unconfirmed|not confirmed|awaiting confirmation|waiting)$/],
  ['resting', /^(resting|inactive|asleep|dormant)$/],
  [
    'unsubscribed',
    /^(unsubscribed?|opted out|opt out|opted-out|optout|removed|cancell?ed|suppressed|blocked|blocklisted|abgemeldet|désabonné|desuscrito|disiscritto)$/,
  ],
  ['bounced', /^((hard |soft )?bounced?|undeliverable)$/],
  ['complained', /^(complained|complaint|(marked as )?spam|spam complaint|abuse|junk)$/],
]

const readStatus = (text: string): Status | null => {
  const word = text.trim().toLowerCase().replaceAll('_', ' ')
  return STATUS_WORDS.find(([, words]) => words.test(word))?.[0] ?? null
}

/** The same in a column that is said to hold it, where a plain yes or no has a meaning, too. */
const statusIn = (text: string): Status | null =>
  readStatus(text) ?? (/^(yes|true|1|y)$/i.test(text) ? 'active' : /^(no|false|0|n)$/i.test(text) ? 'unsubscribed' : null)

/** What stands in a column that is filled in for those who left: nothing, or a plain no, says that they have not. */
const NOT_LEFT = /^(no|false|0|n|never|none|null|-|–|active|subscribed|nein|non)$/i

/** A cell with an address, as mail programs write it, too: `"Ada Lovelace" <ada@example.com>`. `name`: what stands before it. */
export function addressIn(cell: string): { address: AddressCheck, name: string } {
  const text = undefuse(cell).trim()
  const parts = /^(.*)<([^<>]*)>$/s.exec(text)
  return parts ? {
    address: checkAddress(parts[2]!), name: parts[1]!.trim().replace(/^(["'])(.*)\1$/s, '$2').trim(),
  } : { address: checkAddress(text), name: '' }
}

const ORDERS = ['year-month-day', 'day-month-year', 'month-day-year'] as const

/** The order that reads most samples; where several do, day before month, as most of the world writes. */
function guessDateOrder(samples: string[]): DateOrder {
  const read = (order: DateOrder) => samples.filter(cell => readDate(cell.trim(), order) !== null).length
  const most = Math.max(...ORDERS.map(read))
  return samples.length > 0 && read('year-month-day') === samples.length ? 'year-month-day' : ([
    'day-month-year', 'month-day-year', 'year-month-day',
  ] as const).find(order => read(order) === most)!
}

/** A date in the column's order; else in another, where only one other reads it: there it can mean nothing else. */
function dateIn(text: string, order: DateOrder): LocalDate | null {
  const others = new Set(ORDERS.flatMap(other => readDate(text, other) ?? []))
  return readDate(text, order) ?? (others.size === 1 ? [...others][0]! : null)
}

/** Problems of a spec as a whole, by the name of its part; none if it can be carried out. */
export function checkImportSpec(spec: ImportSpec, columns: number): { field: string, problem: string }[] {
  const problems: { field: string, problem: string }[] = []
  if (spec.columns.length !== columns) problems.push({ field: 'columns', problem: 'The columns do not match this file. Drop it again.' })
  const addresses = spec.columns.filter(({ target }) => target.kind === 'address').length
  if (addresses !== 1) problems.push({ field: 'columns', problem: addresses === 0
    ? 'Choose the column with the email address.'
    : 'Only one column can hold the email address.' })
  const once = spec.columns.map(({ target }) => target.kind === 'field' ? `field ${target.fieldId}` : target.kind)
    .filter(key => key !== 'address' && !MANY.has(key))
  if (new Set(once).size < once.length) {
    problems.push({ field: 'columns', problem: 'Two columns go to the same place. Skip one of them.' })
  }
  if (spec.source.trim() === '') problems.push({ field: 'source', problem: 'Give the source a name, like “spring fair 2026”.' })
  if (spec.consent.kind === 'given' && spec.consent.origin.trim() === '') {
    problems.push({
      field: 'consent', problem: 'Say where they agreed, like “on paper at the spring fair”, or choose that there is no record.',
    })
  }
  if (spec.consent.kind === 'given' && spec.consent.wording.trim() === '') {
    problems.push({ field: 'wording', problem: 'Type what they agreed to, in the words they saw.' })
  }
  return problems
}

/**
 * What one row says, or everything that is wrong with it. `names` are the columns' names, for the wording. Where it may come
 * in without its odd cells, it still may not without its address, nor without knowing whether they have left.
 */
export function readRow(cells: string[], names: string[], {
  columns, oddCells,
}: Pick<ImportSpec, 'columns' | 'oddCells'>, fields: Map<number, Field>): ReadRow {
  const problems: string[] = []
  const row: Omit<ImportedRow, 'address'> = {
    firstName: null, country: null, zone: null, fields: [], tags: [], lists: [], listsLeft: [], status: null, consentDate: null,
  }
  const said = cells.map(cell => undefuse(cell).trim())
  const at = columns.findIndex(({ target }) => target.kind === 'address')
  const { address, name } = addressIn(said[at] ?? '')
  const odd: string[] = oddCells === 'leave-out' ? [] : problems
  if (!address.ok) problems.push((said[at] ?? '') === '' ? 'It has no email address.' : address.problem)
  if (said.slice(columns.length).some(cell => cell !== '')) {
    problems.push(`It has ${cells.length} cells where the first line has ${columns.length}.`)
  }
  columns.forEach(({ target, dateOrder }, n) => {
    const text = said[n] ?? ''
    if (text === '') return
    const wrong = (problem: string, into = odd) => into.push(`${names[n]}: ${problem}`)
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
        const tags = partNames(text)
        const long = tags.find(tag => tag.length > 80)
        if (long) wrong(`the tag “${shorten(long)}” is longer than 80 letters.`)
        for (const tag of tags.filter(one => one.length <= 80)) {
          if (!row.tags.some(other => other.toLowerCase() === tag.toLowerCase())) row.tags.push(tag)
        }
        break
      }
      case 'lists':
      case 'lists-left': {
        const lists = partNames(text)
        const long = lists.find(list => list.length > 80)
        if (long) wrong(`the list “${shorten(long)}” is longer than 80 letters.`)
        row[target.kind === 'lists' ? 'lists' : 'listsLeft'].push(...lists.filter(list => list.length <= 80))
        break
      }
      case 'status':
        row.status = strictestOf(row.status, statusIn(text))
        if (statusIn(text) === null) {
          wrong(
            `“${shorten(text)}” is not a status; write active, pending, resting, unsubscribed, bounced or complained.`,
            problems
          )
        }
        break
      case 'unsubscribed':
        if (!NOT_LEFT.test(text)) row.status = strictestOf(row.status, 'unsubscribed')
        break
      case 'consent-date':
        row.consentDate = dateIn(text, dateOrder)
        if (row.consentDate === null) wrong(noDate(text, dateOrder))
        break
      case 'field': {
        const field = fields.get(target.fieldId)
        if (!field) return
        const date = field.kind === 'date' ? dateIn(text, dateOrder) : null
        const read = date === null ? readField(field, text, dateOrder) : { ok: true as const, value: date }
        if (read.ok) row.fields.push([field.id, read.value])
        else wrong(field.kind === 'date' ? noDate(text, dateOrder) : read.problem)
        break
      }
    }
  })
  // Two words are a whole name: which of them is the first is not guessed.
  if (row.firstName === null && name !== '' && !/[\s,]/.test(name)) row.firstName = tidyName(name) || null
  if (problems.length > 0 || !address.ok) {
    return { ok: false, address: said[at] ?? '', problem: [...problems, ...odd === problems ? [] : odd].join(' ') }
  }
  return { ok: true, row: { ...row, address: address.address }, ...odd.length > 0 && { leftOut: odd.join(' ') } }
}

const strictestOf = (one: Status | null, other: Status | null): Status | null =>
  one === null || other === null ? one ?? other : strictest(one, other)

const ORDER_WORDS: Record<DateOrder, string> = {
  'year-month-day': 'year, month, day', 'day-month-year': 'day, month, year', 'month-day-year': 'month, day, year',
}
const noDate = (text: string, order: DateOrder) => `“${shorten(text)}” is not a date, read as ${ORDER_WORDS[order]}.`
const shorten = (text: string) => text.length > 40 ? `${text.slice(0, 39)}…` : text
