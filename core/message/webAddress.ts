/** Addresses that something of ours leads to: one type for emails, pages, buttons, redirects, links and calls. */
import { sayNumber } from '#core/stats/say'

/** `web`: a page. `any`: also to write to somebody or to call them, where a reader follows it by hand. */
export type Allows = 'web' | 'any'

/** `href`: as it is sent, with every letter encoded (WHATWG URL). */
export type ReadAddress = { ok: true, href: string } | { ok: false, problem: string }

const LONGEST = 2000
const MAIL = /^mailto:[^\s@,?<>"]+@[^\s@,?<>"]+\.[^\s@,?<>"]+(\?\S*)?$/i
const PHONE = /^tel:\+?[\d().\- ]{3,30}$/i

/** Reads what was typed. Nothing that runs, nothing without a host, and no name or password in it. */
export function readAddress(typed: string, allows: Allows = 'web'): ReadAddress {
  const text = typed.trim()
  const problem = (words: string): ReadAddress => ({ ok: false, problem: words })
  if (allows === 'any' && MAIL.test(text)) return {
    ok: true, href: encodeURI(text.replace(/%(?![0-9a-f]{2})/gi, '%25')).replaceAll('%25', '%'),
  }
  if (allows === 'any' && PHONE.test(text)) return { ok: true, href: text.replace(/[^\d+a-z:]/gi, '').toLowerCase() }
  const begins = problem(allows === 'any'
    ? 'A web address begins with https://, http://, mailto: or tel:'
    : 'A web address begins with https:// or http://')
  if (!/^https?:\/\//i.test(text)) return begins
  const url = /^https?:\/\/[^/?#\\\s]/i.test(text) && !/\s/.test(text) ? URL.parse(text) : null
  if (!url || url.hostname === '') return problem('This is not a complete web address. It looks like https://example.com/page')
  if (url.username !== '' || url.password !== '') return problem('A web address may not contain a name and password.')
  if (url.href.length > LONGEST) return problem(`A web address has at most ${sayNumber(LONGEST)} letters.`)
  return { ok: true, href: url.href }
}

export const isAddress = (typed: string, allows: Allows = 'web'): boolean => readAddress(typed, allows).ok

/** As it is sent; null for what is no address, which nothing may lead to. */
export function hrefOf(typed: string, allows: Allows = 'web'): string | null {
  const read = readAddress(typed, allows)
  return read.ok ? read.href : null
}

/** Whether somebody is only beginning to type one: that can be kept, and not published. */
export const isUnfinished = (typed: string): boolean => ['https://', 'http://'].some(begin => begin.startsWith(typed.trim().toLowerCase()))

/** Clicks of it are counted; a mail program writes to or calls others by itself. */
export const isTracked = (typed: string): boolean => !/^\s*(mailto|tel):/i.test(typed)

/** The words of the first link or button in this, however deep, that leads to no address; null if all do. */
export function badLinkIn(value: unknown): string | null {
  if (typeof value !== 'object' || value === null) return null
  const node = value as {
    type?: unknown, text?: unknown, marks?: { type: string, attrs?: { href?: unknown } }[], attrs?: { url?: unknown, label?: unknown },
  }
  if (node.type === 'button' && typeof node.attrs?.url === 'string' && !isAddress(node.attrs.url)) return String(node.attrs.label)
  const link = Array.isArray(node.marks) ? node.marks.find(mark => mark.type === 'link') : undefined
  if (link && typeof link.attrs?.href === 'string' && !isAddress(link.attrs.href, 'any')) return String(node.text)
  for (const child of Object.values(value)) {
    const bad = badLinkIn(child)
    if (bad !== null) return bad
  }
  return null
}

export const sayBadLink = (words: string): string => `“${words}” has no address yet. Give it one that begins with https://`
