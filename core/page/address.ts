/** Addresses of our own public pages, read back from what links say. */

/**
 * The end of the address of a page of ours (`p` an opt-in page, `s` an offer's) that a link leads to; null for any other link. `baseUrl`
 * has no slash at its end.
 */
export function slugAt(url: string, baseUrl: string, kind: 'p' | 's'): string | null {
  const [link, base] = [URL.parse(url), URL.parse(baseUrl)]
  if (!link || !base || link.host !== base.host) return null
  const begin = base.pathname.replace(/\/$/, '')
  const slug = link.pathname.startsWith(`${begin}/${kind}/`) ? link.pathname.slice(begin.length + 3).replace(/\/$/, '') : ''
  return /^[a-z0-9-]+$/.test(slug) ? slug : null
}
