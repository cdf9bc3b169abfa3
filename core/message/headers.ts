/** The headers that every email of ours carries besides From, To, Subject and Date. */

export interface HeaderFacts {
  /** Where one POST leaves everything; an https address in live. */
  oneClickUrl: string
  /** What mail programs know the list by: letters, digits and hyphens, the same for good. */
  listSlug: string
  listName: string
  senderDomain: string
}

/**
 * List-Unsubscribe and List-Unsubscribe-Post: RFC 8058 section 3.
 * Auto-Submitted: RFC 3834 section 5; nobody's absence is answered to the owner.
 * List-ID: RFC 2919 section 2, with the phrase as a quoted string, or encoded
 * (RFC 2047) where its name has letters beyond ASCII.
 */
export function listHeaders(facts: HeaderFacts): Record<string, string> {
  const isAscii = /^[\x20-\x7e]*$/.test(facts.listName)
  const phrase = isAscii ? `"${facts.listName.replace(/["\\]/g, '')}"` : encodedWords(facts.listName)
  return {
    'Auto-Submitted': 'auto-generated',
    'List-Unsubscribe': `<${facts.oneClickUrl}>`,
    'List-Unsubscribe-Post': 'List-Unsubscribe=One-Click',
    'List-ID': `${phrase} <${facts.listSlug}.${facts.senderDomain}>`,
  }
}

/** RFC 2047 section 4.2 (Q encoding) of a phrase: words of at most 75 characters, never parted within a letter. */
function encodedWords(text: string): string {
  const words: string[] = []
  let word = ''
  for (const letter of text) {
    const bytes = utf8Of(letter).map(byte => byte === 0x20 ? '_' : /[A-Za-z0-9]/.test(String.fromCharCode(byte))
      ? String.fromCharCode(byte)
      : `=${byte.toString(16).toUpperCase().padStart(2, '0')}`).join('')
    if (word.length + bytes.length > 63) {
      words.push(word)
      word = ''
    }
    word += bytes
  }
  return [...words, word].map(one => `=?UTF-8?Q?${one}?=`).join(' ')
}

function utf8Of(letter: string): number[] {
  const code = letter.codePointAt(0)!
  if (code < 0x80) return [code]
  const rest = code < 0x800 ? 1 : code < 0x10000 ? 2 : 3
  const first = [0, 0xc0, 0xe0, 0xf0][rest]! | code >> (6 * rest)
  return [first, ...Array.from({ length: rest }, (_, n) => 0x80 | (code >> (6 * (rest - 1 - n)) & 0x3f))]
}

/** What makes an email one and the same, however often it is tried: the unique key of its outbox row. */
export interface OutboxKey {
  kind: string
  ownerId: number
  personId: number
  itemId: string
  occasion: string
}

/**
 * A Message-ID (RFC 5322 section 3.6.4) made from the outbox key, so that every
 * try of one email bears the same. `workspaceKey` tells practice from live and
 * one installation from another.
 */
export function messageIdOf(key: OutboxKey, workspaceKey: string, senderDomain: string): string {
  return `<${[key.kind, key.ownerId, key.itemId, key.occasion, key.personId, workspaceKey].join('.')}@${senderDomain}>`
}

/** `news@example.com` gives `example.com`. */
export function domainOf(address: string): string {
  return address.slice(address.lastIndexOf('@') + 1).toLowerCase()
}

/** Letters, digits and hyphens from a name, for List-ID and page addresses; never empty. */
export function slugOf(name: string): string {
  const slug = name.normalize('NFKD').replace(/[\u0300-\u036f]/g, '').toLowerCase().replace(/[^a-z0-9]+/g, '-').replace(/^-+|-+$/g, '')
  return slug || 'untitled'
}
