/** Calls to addresses outside, in practice: nothing leaves. All are taken, but for those that are made not to. */
import type { Caller } from '#core/ports'

/** A host ending in `.invalid` (RFC 2606) takes none, and a path ending in `/gone` says never to come again. */
export function createPracticeCaller(): Caller {
  return {
    async call({ url }) {
      const { hostname, pathname } = new URL(url)
      if (hostname.endsWith('.invalid')) return { ok: false, status: null, problem: 'there is no such site', gone: false }
      return pathname.endsWith('/gone') ? { ok: false, status: 410, problem: 'it answers with 410', gone: true } : { ok: true, status: 200 }
    },
  }
}
