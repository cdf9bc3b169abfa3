/**
 * Email addresses: RFC 5321 section 4.1.2 dot-strings, with the international
 * letters of RFC 6531. Quoted local parts and address literals are legal on
 * paper and refused here: nobody opts in with one, robots do.
 */

export interface Address {
  /** As it is shown and mailed to: the domain in lower case, the rest as typed. */
  shown: string
  /** One person has one key: what makes two spellings the same address. */
  key: string
}

export type AddressCheck = { ok: true, address: Address } | { ok: false, problem: string }

const ASCII_ATOM = /^[A-Za-z0-9!#$%&'*+/=?^_`{|}~-]+$/
const LABEL = /^[\p{L}\p{N}](?:[\p{L}\p{M}\p{N}-]*[\p{L}\p{M}\p{N}])?$/u

/** Says what is wrong and what would be right; spaces around the address are taken off first. */
export function checkAddress(typed: string): AddressCheck {
  const text = typed.trim().normalize('NFC')
  const wrong = (problem: string): AddressCheck => ({ ok: false, problem })
  if (text === '') return wrong('Type your email address, like ada@example.com.')
  if (/\s/.test(text)) return wrong('An email address has no spaces in it.')
  if (!text.includes('@')) return wrong('An email address has an @ in the middle, like ada@example.com.')
  const at = text.lastIndexOf('@')
  const local = text.slice(0, at)
  const domain = text.slice(at + 1)
  if (local.includes('@')) return wrong('An email address has only one @.')
  if (local === '') return wrong('Something is missing before the @. Type it like ada@example.com.')
  if (domain === '') return wrong('Something is missing after the @. Type it like ada@example.com.')
  if (domain.includes(',') || local.includes(',')) return wrong('There is a comma in this address. Did you mean a dot?')
  if (utf8Length(local) > 64 || utf8Length(text) > 254) return wrong('This address is too long.')
  const badAtom = local.split('.').find(atom => !isAtom(atom))
  if (badAtom === '') return wrong('Before the @, a dot cannot be first, last or next to another dot.')
  if (badAtom !== undefined) return wrong(`“${badAtom}” cannot be used before the @. Use letters, digits and . _ + -`)
  const labels = domain.split('.')
  if (labels.includes('')) return wrong('After the @, a dot cannot be first, last or next to another dot.')
  if (labels.length < 2) return wrong(`After the @ comes a full domain, like ${domain}.com.`)
  const badLabel = labels.find(label => !LABEL.test(label) || utf8Length(label) > 63)
  if (badLabel !== undefined) return wrong(`“${badLabel}” cannot be used after the @.`)
  if (/^\d+$/.test(labels.at(-1)!)) return wrong('After the @ comes a domain, like example.com, not a number.')
  const shown = `${local}@${domain.toLowerCase()}`
  return { ok: true, address: { shown, key: shown.toLowerCase() } }
}

/**
 * True for an address that needs a server with SMTPUTF8 (RFC 6531): letters beyond ASCII before the @. A domain of such letters can be
 * written in ASCII.
 */
// oxlint-disable-next-line no-control-regex
export const needsUtf8Server = (address: string): boolean => /[^\x00-\x7f]/.test(address.slice(0, address.lastIndexOf('@')))

/** What a form says of one where our mail server cannot do that. */
export const CANNOT_REACH = 'Our mail cannot reach an address with letters like these before the @. Do you have another one?'

/** Domains whose owners tell receivers to refuse mail that others send in their name (DMARC, RFC 7489). Common practice, no source. */
const FREE_MAIL = /(^|\.)(gmail|googlemail|yahoo|ymail|aol|outlook|hotmail|live|icloud|me|gmx|web)\.[a-z.]+$/i
export const isFreeMailbox = (address: string): boolean => FREE_MAIL.test(address.slice(address.lastIndexOf('@') + 1))

/** True for names that RFC 2606 and RFC 6761 keep for examples and tests: nobody is ever there. */
export function isReservedHost(host: string): boolean {
  return /(^|\.)(example\.(com|net|org)|example|test|invalid)$/i.test(host)
}

function isAtom(atom: string): boolean {
  return ASCII_ATOM.test(atom) || (/^[\p{L}\p{M}\p{N}!#$%&'*+/=?^_`{|}~-]+$/u.test(atom))
}

/** Bytes in UTF-8, which is what the length limits of RFC 5321 section 4.5.3.1 count. */
function utf8Length(text: string): number {
  let bytes = 0
  for (const char of text) {
    const code = char.codePointAt(0)!
    bytes += code < 0x80 ? 1 : code < 0x800 ? 2 : code < 0x10000 ? 3 : 4
  }
  return bytes
}

/**
 * Letters that are not seen. Joiners stay: Persian and the scripts of India are written with them, and joined emoji; so do the tags that
 * flags are made of.
 */
const UNSEEN = /(?!\u200c|\u200d|[\u{e0020}-\u{e007f}])\p{C}/gu
const JOINERS_AT_ENDS = /^(?:\s|\u200c|\u200d)+|(?:\s|\u200c|\u200d)+$/gu
const LONGEST_NAME = 80

/** Words that a mail program would make an address of: a scheme, a mail address, or a dot between words (initials are none). */
const LIKE_AN_ADDRESS = /:\/\/|@|\bwww\.|[\p{L}\p{N}]\.[\p{L}\p{N}-]{2,}/iu

/** What is wrong with a first name that a visitor types; null if nothing is. */
export const visitorNameProblem = (name: string): string | null =>
  LIKE_AN_ADDRESS.test(name) ? 'Type your first name alone, without a web or email address.' : null

/** A first name as it is kept: trimmed, single spaces, no control characters, at most 80 letters. */
export function tidyName(typed: string): string {
  const text = typed.replace(UNSEEN, ' ').replace(/\s+/g, ' ').replace(JOINERS_AT_ENDS, '').trim()
  if (text.length <= LONGEST_NAME) return text
  // Cut between letters, whatever each is made of.
  let kept = ''
  for (const { segment } of new Intl.Segmenter().segment(text)) {
    if (kept.length + segment.length > LONGEST_NAME) break
    kept += segment
  }
  return kept.trim()
}
