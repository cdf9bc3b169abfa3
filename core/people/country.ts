/** Countries by their ISO 3166-1 codes of two letters, and which of them ask for recorded consent. */
import en from 'i18n-iso-countries/langs/en.json' with { type: 'json' }

/** `PT`; checked by {@link isCountry}. */
export type CountryCode = string

const NAMES = new Map(
  Object.entries(en.countries as Record<string, string | string[]>).map(([code, names]) => [code, Array.isArray(names) ? names : [names]]),
)

const fold = (text: string) =>
  text.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase().replace(/^the /, '').replace(/[^\p{L}]+/gu, ' ').trim()

/** What people write in a spreadsheet besides. Common practice, no source. */
const ALSO_CALLED: readonly [string, CountryCode][] = [
  ['england', 'GB'], ['scotland', 'GB'], ['wales', 'GB'], ['northern ireland', 'GB'], ['holland', 'NL'], ['america', 'US'],
  ['czechia', 'CZ'], ['turkey', 'TR'],
]

// These are made when first needed: a screen that shows no countries should not wait for them.

let english: Map<string, CountryCode> | undefined

const englishNames = () => english ??= new Map([
  ...[...NAMES].flatMap(([code, names]) => names.map(name => [fold(name), code] as const)), ...ALSO_CALLED,
])

let inOrder: readonly { code: CountryCode, name: string }[] | undefined

/** All assigned codes, and XK for Kosovo, which ISO 3166-1 leaves to its users; in the order of their English names. */
export const allCountries = (): readonly { code: CountryCode, name: string }[] => inOrder ??= [...NAMES]
  .map(([code, names]) => ({ code, name: names[0]! }))
  .sort((a, b) => a.name.localeCompare(b.name, 'en'))

export const isCountry = (code: string): boolean => NAMES.has(code)

/** `Portugal`; an unknown code says itself. */
export const sayCountry = (code: CountryCode): string => NAMES.get(code)?.[0] ?? code

/** The code of a country as people write it: its code, or its name in English or another widely written language. Null if it is none. */
export function readCountry(typed: string): CountryCode | null {
  const text = typed.trim()
  const code = text.toUpperCase()
  if (isCountry(code)) return code
  const name = fold(text)
  return englishNames().get(name) ?? foreignNames().get(name) ?? null
}

const LANGUAGES = [
  'de', 'fr', 'es', 'pt', 'it', 'nl', 'sv', 'da', 'nb', 'fi', 'pl', 'cs', 'hu', 'ro', 'el', 'tr', 'uk', 'ru', 'ja', 'zh', 'ko',
]
let foreign: Map<string, CountryCode> | undefined

/** Names in other languages, from the Unicode CLDR that the runtime carries; what means different countries in two of them means none. */
function foreignNames(): Map<string, CountryCode> {
  if (foreign) return foreign
  const codes = new Map<string, Set<CountryCode>>()
  for (const language of LANGUAGES) {
    const names = new Intl.DisplayNames([language], { type: 'region', fallback: 'none' })
    for (const { code } of allCountries()) {
      const name = fold(names.of(code) ?? '')
      if (name !== '') codes.set(name, (codes.get(name) ?? new Set()).add(code))
    }
  }
  return foreign = new Map([...codes].flatMap(([name, of]) => of.size === 1 ? [[name, [...of][0]!]] : []))
}

/**
 * The European Economic Area (Directive 2002/58/EC article 13 asks for consent
 * to mail), the United Kingdom (PECR 2003, regulation 22), Switzerland (Unfair
 * Competition Act, article 3) and Canada (its anti-spam law of 2010). From memory; a setting, not advice.
 */
export const USUAL_CONSENT_COUNTRIES: readonly CountryCode[] = [
  'AT', 'BE', 'BG', 'CA', 'CH', 'CY', 'CZ', 'DE', 'DK', 'EE', 'ES', 'FI', 'FR', 'GB', 'GR', 'HR', 'HU', 'IE', 'IS', 'IT', 'LI', 'LT', 'LU',
  'LV', 'MT', 'NL', 'NO', 'PL', 'PT', 'RO', 'SE', 'SI', 'SK',
]

/** Where mail needs consent that is on record. */
export interface ConsentRule {
  countries: readonly CountryCode[]
  /** For people whose country is not known. */
  unknownNeeds: boolean
}

export function needsConsent(country: CountryCode | null, rule: ConsentRule): boolean {
  return country === null ? rule.unknownNeeds : rule.countries.includes(country)
}
