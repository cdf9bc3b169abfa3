/** Whether destinations answer, in practice: all do, but for those that are made not to. */
import type { LinkChecker } from '#core/ports'

/** A host ending in `.invalid` (RFC 2606), or a path ending in `/gone`, does not. */
export function createPracticeLinkChecker(): LinkChecker {
  return {
    async check(url) {
      const { hostname, pathname } = new URL(url)
      if (hostname.endsWith('.invalid')) return 'there is no such site'
      return pathname.endsWith('/gone') ? 'it says the page does not exist (404)' : null
    },
  }
}
