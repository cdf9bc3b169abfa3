/** What can stand in an email in the place of words: facts of the reader, of the email and of its day. One entry a fact. */
import { DateTime } from 'luxon'

interface Placeholder {
  /** What it is called where it is picked, and between brackets in lists and files. */
  words: string
  /** Whose it is, or what for, in a few words. */
  hint: string
  /** It may be unknown: then other words stand in its place. */
  mayLack: boolean
  /** How it can be said. The first is how it is said if nothing is chosen. */
  forms: readonly Form[]
  /** Days can be added to it. */
  takesDays?: true
  /** A link that is the reader's own, ready under that name; its words stand in the place of what may lack. Not in a line. */
  link?: 'choices_url' | 'view_url'
}

/** In words for the person who chooses. */
export const FORMS = {
  'first-large': 'First letter large', 'first-word': 'Only the first word',
  'day': 'Saturday 5 December', 'weekday': 'Saturday', 'date': '5 December 2026',
} as const
export type Form = keyof typeof FORMS

const WORDS: readonly Form[] = ['first-large', 'first-word']
const DATES: readonly Form[] = ['day', 'weekday', 'date']

export const PLACEHOLDERS = {
  first_name: { words: 'first name', hint: 'of the reader', mayLack: true, forms: WORDS },
  own: { words: 'field', hint: 'what you keep about the reader', mayLack: true, forms: [...WORDS, ...DATES] },
  email: { words: 'email address', hint: 'of the reader', mayLack: false, forms: [] },
  list_name: { words: 'name of the list', hint: 'that the email goes by', mayLack: false, forms: [] },
  sender_name: { words: 'sender’s name', hint: 'yours, as readers see it', mayLack: false, forms: [] },
  workspace_name: { words: 'workspace’s name', hint: 'what you do is called', mayLack: false, forms: [] },
  today: { words: 'date it is sent', hint: 'where the reader lives', mayLack: false, forms: DATES, takesDays: true },
  began: { words: 'date they joined the course', hint: 'of the reader', mayLack: true, forms: DATES, takesDays: true },
  choices: { words: 'link to their choices', hint: 'what they get, or unsubscribe', mayLack: true, forms: [], link: 'choices_url' },
  in_browser: { words: 'link to read it in a browser', hint: 'the email as they got it', mayLack: true, forms: [], link: 'view_url' },
} as const satisfies Record<string, Placeholder>

/** What a new one says, where something has to stand. */
export const FIRST_WORDS: Partial<Record<PlaceholderField, string>> = {
  first_name: 'friend', choices: 'Choose what you get', in_browser: 'Read this in your browser',
}

export type PlaceholderField = keyof typeof PLACEHOLDERS
export const PLACEHOLDER_FIELDS = Object.keys(PLACEHOLDERS) as PlaceholderField[]
export const placeholder = (field: PlaceholderField): Placeholder => PLACEHOLDERS[field]
/** Those that a subject can have, too. */
export const LINE_FIELDS = PLACEHOLDER_FIELDS.filter(field => !placeholder(field).link)

/** `own` has the number of a field and `label`, what it was called when it was put in. `days`: -400 to 400. */
export interface PlaceholderAttrs {
  field: PlaceholderField, fallback: string, fieldId?: number | null, label?: string | null, as?: Form | null, days?: number | null
}

/** The name of the fact among what a person brings. */
export function factOf({ field, fieldId, days }: PlaceholderAttrs): string {
  if (field === 'own') return `field ${fieldId}`
  return placeholder(field).takesDays ? `${field} ${days ?? 0}` : field
}

/** Of what {@link factOf} names: which field, or how many days. */
export function readFact(fact: string): { field: PlaceholderField, n: number } | null {
  const [name, n] = fact.split(' ') as [string, string | undefined]
  if (name === 'field') return { field: 'own', n: Number(n) }
  return Object.hasOwn(PLACEHOLDERS, name) ? { field: name as PlaceholderField, n: Number(n ?? 0) } : null
}

export const formOf = ({ field, as }: PlaceholderAttrs): Form | null => as ?? (placeholder(field).takesDays ? 'day' : null)

/** A value as it is said. Dates come as `2026-12-05`; what is no date stays as it is. */
export function sayIn(form: Form, value: string): string {
  const text = value.trim()
  switch (form) {
    case 'first-large': return text.replace(/^./u, letter => letter.toLocaleUpperCase())
    case 'first-word': return text.split(/\s+/)[0]!
    default: {
      const date = DateTime.fromISO(text, { zone: 'utc', locale: 'en-GB' })
      return date.isValid ? date.toFormat({ day: 'cccc d LLLL', weekday: 'cccc', date: 'd LLLL yyyy' }[form]) : text
    }
  }
}

/** What it is called where the email is written and listed. */
export function namePlaceholder({ field, label, days }: PlaceholderAttrs): string {
  const name = field === 'own' ? label || placeholder(field).words : placeholder(field).words
  return days ? `${name}, ${days > 0 ? 'plus' : 'minus'} ${Math.abs(days) === 1 ? '1 day' : `${Math.abs(days)} days`}` : name
}

/** `[first name, or: friend]` */
export const sayPlaceholder = (attrs: PlaceholderAttrs): string =>
  `[${namePlaceholder(attrs)}${placeholder(attrs.field).mayLack ? `, or: ${attrs.fallback}` : ''}]`
