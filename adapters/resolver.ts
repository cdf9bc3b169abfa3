/** The name servers of this machine. */
import { Resolver as Dns } from 'node:dns/promises'
import type { Resolver } from '#core/ports'

const PATIENCE_MS = 3000
const TRIES = 2

/** What a name server says where there is nothing: that is an answer, too. */
const NOTHING = new Set(['ENODATA', 'ENOTFOUND', 'ENONAME'])

export function createResolver(servers?: readonly string[]): Resolver {
  const dns = new Dns({ timeout: PATIENCE_MS, tries: TRIES })
  if (servers) dns.setServers(servers)
  return {
    async texts(name) {
      try {
        // A record longer than 255 bytes comes in pieces (RFC 7208 section 3.3).
        return { ok: true, texts: (await dns.resolveTxt(name)).map(pieces => pieces.join('')) }
      }
      catch (error) {
        const code = (error as NodeJS.ErrnoException).code ?? ''
        if (NOTHING.has(code)) return { ok: true, texts: [] }
        return {
          ok: false,
          problem: code === 'ETIMEOUT' ? 'The name servers did not answer in time.' : `The name servers could not be asked (${code}).`,
        }
      }
    },
  }
}
