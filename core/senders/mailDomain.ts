/**
 * What the domain of a sender publishes about its mail, and what that means for emails sent in its name: a DKIM key (RFC 6376), a DMARC
 * policy (RFC 7489) and an SPF record (RFC 7208).
 */
import { getDomain } from 'tldts'
import { domainOf } from '../message/headers'
import type { Instant } from '../time/zone'

/** What a receiver is asked to do with mail that cannot be shown to come from the domain. RFC 7489 section 6.3. */
export type DmarcPolicy = 'none' | 'quarantine' | 'reject'

/** As the name servers answered. Each is null where nothing of it was found. */
export interface Published {
  /** The text beside the selector of our key. */
  dkim: string | null
  dmarc: { policy: DmarcPolicy, /** Where it stands: the domain, or the one it belongs to. */ at: string } | null
  spf: string | null
}

export interface MailDomain {
  domain: string
  /** Null while no key was made. */
  key: { selector: string, /** Base64 of its DER (SubjectPublicKeyInfo). */ publicKey: string } | null
  /** Null before it was looked at. */
  published: Published | null
  checkedAt: Instant | null
  /** Why the name servers could not be asked, the last time. */
  trouble: string | null
}

/**
 * The domain of an address as name servers know it: in letters of ASCII (RFC 5890; RFC 6376 section 3.5 wants it so for signatures).
 */
export function mailDomainOf(address: string): string {
  const domain = domainOf(address)
  return URL.parse(`http://${domain}`)?.hostname ?? domain
}

/** The domain that somebody registered: `example.com` of `news.example.com`. RFC 7489 section 3.2, by the public suffix list. */
export const registeredDomain = (domain: string): string => getDomain(domain, { allowPrivateDomains: true }) ?? domain

export interface DnsRecord { name: string, type: 'TXT', value: string }

/** RFC 6376 section 3.6.1. */
export const dkimRecord = ({ domain, key }: { domain: string, key: NonNullable<MailDomain['key']> }): DnsRecord => ({
  name: `${key.selector}._domainkey.${domain}`, type: 'TXT', value: `v=DKIM1; k=rsa; p=${key.publicKey}`,
})

/** The least that large mailbox providers ask for: nothing is refused by it. RFC 7489 section 6.3. */
export const dmarcRecord = (domain: string): DnsRecord =>
  ({ name: `_dmarc.${registeredDomain(domain)}`, type: 'TXT', value: 'v=DMARC1; p=none' })

/** `v=DKIM1; p=…`: tags and values. RFC 6376 section 3.2. A tag that comes twice makes it unreadable: null. */
export function readTags(text: string): Map<string, string> | null {
  const tags = new Map<string, string>()
  for (const part of text.split(';')) {
    const at = part.indexOf('=')
    if (at < 0) {
      if (part.trim() !== '') return null
      continue
    }
    const name = part.slice(0, at).trim().toLowerCase()
    if (name === '' || tags.has(name)) return null
    tags.set(name, part.slice(at + 1).trim())
  }
  return tags
}

/**
 * The policy of a record; null where this is none. `asSubdomain`: of a domain below the one where it stands (`sp`). RFC 7489 section 6.6.3:
 * what has no readable policy but an address for reports counts as `none`.
 */
export function readDmarc(text: string, asSubdomain: boolean): DmarcPolicy | null {
  if (!/^\s*v\s*=\s*DMARC1\s*(;|$)/.test(text)) return null
  const tags = readTags(text)
  if (!tags) return null
  const policy = ((asSubdomain ? tags.get('sp') : undefined) ?? tags.get('p'))?.toLowerCase()
  if (policy === 'none' || policy === 'quarantine' || policy === 'reject') return policy
  return tags.has('rua') ? 'none' : null
}

/** Whether what is published lets our key be found: the same key, and not only for tests (`t=y`). */
export function holdsOurKey(text: string | null, publicKey: string): boolean {
  const tags = text === null ? null : readTags(text)
  return tags?.get('p')?.replace(/\s/g, '') === publicKey && !(tags.get('t') ?? '').split(':').includes('y')
}

/** Signed in its own name, so that receivers know it by that. */
export const signs = ({ key, published }: MailDomain): boolean => key !== null && holdsOurKey(published?.dkim ?? null, key.publicKey)

/** RFC 7208 section 4.5. */
export const isSpf = (text: string): boolean => /^v=spf1( |$)/i.test(text)

export interface Remark {
  /** `wrong`: mail is likely to be refused. `look`: it is worth doing. */
  weight: 'wrong' | 'look'
  says: string
  todo: string
}

/** What is to be said of a sender at this domain, the most pressing first; nothing where all is well. */
export function remarksOn(domain: MailDomain, isFreeMailbox: boolean): Remark[] {
  if (isFreeMailbox) return [{
    weight: 'wrong', says: `${domain.domain} belongs to a free mail service`,
    todo: 'Its owner alone may send in its name (DMARC, RFC 7489). Use an address at a domain of your own.',
  }]
  const { published, key } = domain
  if (published === null) return []
  const policy = published.dmarc?.policy ?? null
  const remarks: Remark[] = []
  if (!signs(domain) && (policy === 'reject' || policy === 'quarantine')) {
    const asks = policy === 'reject' ? 'refuse' : 'put into spam'
    remarks.push({
      weight: 'wrong', says: `Emails from ${domain.domain} may be refused`,
      todo: `The domain asks receivers to ${asks} what is not signed in its name (DMARC, RFC 7489). `
        + (key === null ? 'Make a key, and publish it.' : 'Publish the key.')
        + ' If your mail service signs in this name already, nothing is wrong.',
    })
  }
  else if (!signs(domain)) {
    remarks.push({
      weight: 'look', says: 'Emails are not signed', todo: key === null
        ? 'Receivers trust signed mail more, and large ones ask for it. Make a key, and publish it.'
        : published.dkim === null ? 'The key is not published yet.' : 'Something else is published where the key should be.',
    })
  }
  if (policy === null) {
    remarks.push({
      weight: 'look', says: 'There is no DMARC record', todo: 'Large mailbox providers ask for one. Publish the one shown here.',
    })
  }
  if (published.spf === null) {
    remarks.push({
      weight: 'look', says: 'There is no SPF record',
      todo: 'It names the servers that may send for the domain. Your mail service tells you what to publish.',
    })
  }
  return remarks
}
