/** Which offers an email sells: those whose page one of its links leads to. */

/** The end of the address of the offer's page that a link leads to, on this site; null for any other link. `baseUrl` has no slash at its end. */
export function slugSoldBy(url: string, baseUrl: string): string | null {
  const [link, base] = [URL.parse(url), URL.parse(baseUrl)]
  if (!link || !base || link.host !== base.host) return null
  const begin = base.pathname.replace(/\/$/, '')
  const slug = link.pathname.startsWith(`${begin}/s/`) ? link.pathname.slice(begin.length + 3).replace(/\/$/, '') : ''
  return /^[a-z0-9-]+$/.test(slug) ? slug : null
}
