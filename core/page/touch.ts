/** What brought somebody to a page of ours, as the address and the browser say it. Kept by name, never by person. */

/** Each is a short word or a host, in small letters; empty where nothing was said. */
export interface Touch {
  /** A source the owner named, by its part of the address. */
  named: string
  /** The five that the trade puts into addresses as `utm_…`. */
  source: string
  medium: string
  campaign: string
  term: string
  content: string
  /** Host of the site the visitor came from. */
  referrer: string
}

/** What a touch comes down to: a source of the owner's, what the address said (`utm_source`), the site they came from, or nothing told. */
export const SOURCE_KINDS = ['named', 'utm', 'site', 'untold'] as const
export interface SourceKey {
  kind: typeof SOURCE_KINDS[number]
  /** Empty where nothing was told. */
  word: string
}

/** What the owner named comes first, then what the address says, then the site. */
export function sourceOf({ named, source, referrer }: Pick<Touch, 'named' | 'source' | 'referrer'>): SourceKey {
  if (named !== '') return { kind: 'named', word: named }
  if (source !== '') return { kind: 'utm', word: source }
  return referrer !== '' ? { kind: 'site', word: referrer } : { kind: 'untold', word: '' }
}

export const isSameSource = (one: SourceKey, other: SourceKey): boolean => one.kind === other.kind && one.word === other.word

/** `“workshop flyer”`, `guild letter`, `the site example.org`, `unknown`. */
export function saySourceKey({ kind, word }: SourceKey, nameOf: (slug: string) => string | undefined): string {
  return sayTouch({
    ...NO_TOUCH, ...kind === 'named' && { named: word }, ...kind === 'utm' && { source: word }, ...kind === 'site' && { referrer: word },
  }, nameOf)
}

export const NO_TOUCH: Touch = { named: '', source: '', medium: '', campaign: '', term: '', content: '', referrer: '' }

/** Stands for all further ones where more came in a day than anybody can read. */
export const OTHERS: Touch = { ...NO_TOUCH, source: 'others' }

/** Letters of a part. */
const LONGEST = 80

/** Names of the parts in an address, and in the hidden field that carries them through the form. */
const PARTS: Record<keyof Touch, string> = {
  named: 'from', source: 'utm_source', medium: 'utm_medium', campaign: 'utm_campaign', term: 'utm_term', content: 'utm_content',
  referrer: 'referrer',
}
const KEYS = Object.keys(PARTS) as (keyof Touch)[]

/** One line without control or direction characters, in small letters. Whatever stands there, nothing else comes out. */
function tidy(text: unknown): string {
  return typeof text !== 'string'
    ? ''
    : [...text.toLowerCase().normalize('NFC').replace(/[\p{C}\s]+/gu, ' ').trim()].slice(0, LONGEST).join('').trim()
}

/** `https://www.example.org/a?b` as `example.org`; empty for our own host, and for what is no web address. */
function hostOf(referrer: string | null | undefined, ownHost: string): string {
  const url = referrer ? URL.parse(referrer) : null
  if (!url || !/^https?:$/.test(url.protocol) || url.host === ownHost) return ''
  return tidy(url.hostname.replace(/^www\./, ''))
}

/** From the query of an address and the browser's word where it came from. */
export function touchOf(query: Record<string, unknown>, referrer: string | null | undefined, ownHost: string): Touch {
  const said = (key: keyof Touch) => tidy(query[PARTS[key]])
  return {
    named: said('named'), source: said('source'), medium: said('medium'), campaign: said('campaign'), term: said('term'),
    content: said('content'), referrer: hostOf(referrer, ownHost),
  }
}

/** For the hidden field of a form; {@link readTouch} takes it back. Empty if nothing was said. */
export function writeTouch(touch: Touch): string {
  return new URLSearchParams(KEYS.filter(key => touch[key] !== '').map((key): [string, string] => [PARTS[key], touch[key]])).toString()
}

/** What a form sent back. It comes from outside: it is tidied like an address. */
export function readTouch(text: string): Touch {
  const parts = new URLSearchParams(text)
  return Object.fromEntries(KEYS.map(key => [key, tidy(parts.get(PARTS[key]))])) as unknown as Touch
}

/** `“Workshop flyer”`, `letter / email / spring`, `the site example.org`; what the owner named says its name. */
export function sayTouch(touch: Touch, nameOf: (slug: string) => string | undefined): string {
  if (touch.named !== '') return `“${nameOf(touch.named) ?? touch.named}”`
  const told = [touch.source, touch.medium, touch.campaign, touch.content, touch.term].filter(part => part !== '')
  if (told.length > 0) return told.join(' / ')
  return touch.referrer === '' ? 'unknown' : `the site ${touch.referrer}`
}
