/** The headers that every email of ours carries besides From, To, Subject and Date. */

export interface HeaderFacts {
  /** Where one POST leaves everything; an https address in live. */
  oneClickUrl: string
  /** Short name of the list, letters, digits and hyphens. */
  listSlug: string
  listName: string
  senderDomain: string
}

/**
 * List-Unsubscribe and List-Unsubscribe-Post: RFC 8058 section 3.
 * List-ID: RFC 2919 section 2, with the phrase as a quoted string.
 */
export function listHeaders(facts: HeaderFacts): Record<string, string> {
  const phrase = /^[\x20-\x7e]*$/.test(facts.listName) ? `"${facts.listName.replace(/["\\]/g, '')}" ` : ''
  return {
    'List-Unsubscribe': `<${facts.oneClickUrl}>`,
    'List-Unsubscribe-Post': 'List-Unsubscribe=One-Click',
    'List-ID': `${phrase}<${facts.listSlug}.${facts.senderDomain}>`,
  }
}

/** What makes an email one and the same, however often it is tried: the unique key of its outbox row. */
export interface OutboxKey {
  kind: string
  thingId: number
  personId: number
  stepId: string
  visit: number
  purpose: string
}

/**
 * A Message-ID (RFC 5322 section 3.6.4) made from the outbox key, so that every
 * try of one email bears the same. `workspaceKey` tells practice from live and
 * one installation from another.
 */
export function messageIdOf(key: OutboxKey, workspaceKey: string, senderDomain: string): string {
  return `<${[key.kind, key.thingId, key.stepId, key.visit, key.purpose, key.personId, workspaceKey].join('.')}@${senderDomain}>`
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
