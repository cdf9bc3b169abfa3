/** Fields: typed facts about people. What is typed or imported is read here; only what fits is kept. */
import { plainDecimal } from '#core/decimal'
import { isDate, isZone } from '#core/time/zone'
import { isCountry, readCountry, sayCountry } from './country'
import { sayNumber } from '#core/stats/say'

export const FIELD_KINDS = ['text', 'number', 'yes-no', 'date', 'choice', 'country', 'zone'] as const
export type FieldKind = typeof FIELD_KINDS[number]
export const isFieldKind = (kind: string): kind is FieldKind => (FIELD_KINDS as readonly string[]).includes(kind)

export const FIELD_KIND_WORDS: Record<FieldKind, string> = {
  'text': 'text', 'number': 'number', 'yes-no': 'yes or no', 'date': 'date', 'choice': 'one of several', 'country': 'country',
  'zone': 'time zone',
}

export interface FieldInput {
  /** For the owner. */
  name: string
  /** What readers see where a form asks for it. */
  label: string
  kind: FieldKind
  /** Only for a choice. */
  choices: string[]
}

export interface Field extends FieldInput { id: number }

/** A number for number and yes/no (1 and 0), else a text: a date as `2026-11-24`, a country as its code. */
export type FieldValue = string | number

export type ReadField = { ok: true, value: FieldValue } | { ok: false, problem: string }

const YES = new Set(['yes', 'y', 'true', '1', 'x', 'on'])
const NO = new Set(['no', 'n', 'false', '0', 'off'])
export const MOST_LETTERS = 1000

/** How dates with slashes or dots are written; a column of a file says which. */
export const DATE_ORDERS = ['year-month-day', 'day-month-year', 'month-day-year'] as const
export type DateOrder = typeof DATE_ORDERS[number]

/** Reads what was typed for a field; spaces around are taken off, and nothing typed is for the caller to handle. */
export function readField(field: Pick<FieldInput, 'kind' | 'choices'>, typed: string, order: DateOrder = 'year-month-day'): ReadField {
  const text = typed.trim()
  const wrong = (problem: string): ReadField => ({ ok: false, problem })
  switch (field.kind) {
    case 'text':
      return text.length > MOST_LETTERS
        ? wrong(`At most ${sayNumber(MOST_LETTERS)} letters fit here.`)
        : { ok: true, value: text }
    case 'number': {
      const number = readNumber(text)
      return number === null ? wrong(`A number looks like 12 or 12.5, not “${text}”.`) : { ok: true, value: number }
    }
    case 'yes-no': {
      const word = text.toLowerCase()
      return YES.has(word) ? { ok: true, value: 1 } : NO.has(word) ? { ok: true, value: 0 } : wrong(`This is yes or no, not “${text}”.`)
    }
    case 'date': {
      const date = readDate(text, order)
      return date === null ? wrong(`A date looks like 2026-11-24, not “${text}”.`) : { ok: true, value: date }
    }
    case 'choice': {
      const choice = field.choices.find(one => one === text) ?? field.choices.find(one => one.toLowerCase() === text.toLowerCase())
      return choice === undefined ? wrong(`“${text}” is not one of the choices: ${field.choices.join(', ')}.`) : { ok: true, value: choice }
    }
    case 'country': {
      const code = readCountry(text)
      return code === null ? wrong(`“${text}” is not a country; write it like Portugal or PT.`) : { ok: true, value: code }
    }
    case 'zone':
      return isZone(text) ? { ok: true, value: text } : wrong(`A time zone looks like Europe/Lisbon, not “${text}”.`)
  }
}

/** A number however it is written; see {@link plainDecimal}. Null for what is none. */
export function readNumber(text: string): number | null {
  const plain = plainDecimal(text)
  const number = plain === null ? NaN : Number(plain)
  return Number.isFinite(number) ? number : null
}

/** `2026-11-24` from that, or from `24/11/2026` and its kin in the order said. Null for what is no date, like 31/02. */
export function readDate(text: string, order: DateOrder): string | null {
  const iso = /^(\d{4})-(\d{1,2})-(\d{1,2})(?:[T ].*)?$/.exec(text)
  const parts = iso ?? /^(\d{1,4})[./-](\d{1,2})[./-](\d{1,4})(?:[T ,].*)?$/.exec(text)
  if (!parts) return null
  const [first, second, third] = [parts[1]!, parts[2]!, parts[3]!]
  const [year, month, day] = iso || order === 'year-month-day'
    ? [first, second, third]
    : order === 'day-month-year' ? [third, second, first] : [third, first, second]
  if (year.length !== 4) return null
  const date = `${year}-${month.padStart(2, '0')}-${day.padStart(2, '0')}`
  return isDate(date) ? date : null
}

/** Whether a value may stand in a field of this kind as it is kept. */
export function fitsField(field: Pick<FieldInput, 'kind' | 'choices'>, value: FieldValue): boolean {
  switch (field.kind) {
    case 'number':
      return typeof value === 'number' && Number.isFinite(value)
    case 'yes-no':
      return value === 0 || value === 1
    case 'text':
      return typeof value === 'string' && value.length <= MOST_LETTERS
    case 'date':
      return typeof value === 'string' && isDate(value)
    case 'choice':
      return typeof value === 'string' && field.choices.includes(value)
    case 'country':
      return typeof value === 'string' && isCountry(value)
    case 'zone':
      return typeof value === 'string' && isZone(value)
  }
}

/** A value as people read it. Dates stay as they are kept: nobody can mistake day and month there. */
export function sayField(kind: FieldKind, value: FieldValue): string {
  if (kind === 'yes-no') return value === 1 ? 'yes' : 'no'
  return kind === 'country' ? sayCountry(String(value)) : kind === 'zone' ? String(value).replaceAll('_', ' ') : String(value)
}
