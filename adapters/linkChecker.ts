/** Whether destinations answer, live: over HTTP, a few redirects followed. */
import type { LinkChecker } from '#core/ports'
import { askOutside, sayFault } from './outside'

const PATIENCE_MS = 10_000
const MOST_REDIRECTS = 5
/** What servers say that do not know how to answer without a page: then the page is asked for. */
const ASK_FOR_THE_PAGE = [403, 404, 405, 501]

export function createLinkChecker(options: { allowInside?: boolean } = {}): LinkChecker {
  const ask = (url: string, method: 'HEAD' | 'GET') =>
    askOutside({ url, method, timeoutMs: PATIENCE_MS, allowInside: options.allowInside ?? false })
  return {
    async check(begin) {
      let url = begin
      try {
        for (let hops = 0; hops <= MOST_REDIRECTS; hops++) {
          let answer = await ask(url, 'HEAD')
          if (ASK_FOR_THE_PAGE.includes(answer.status)) answer = await ask(url, 'GET')
          if (answer.status < 300) return null
          if (answer.status >= 400) return answer.status === 404 || answer.status === 410
            ? `it says the page does not exist (${answer.status})`
            : `it answers with an error (${answer.status})`
          if (answer.location === null) return null
          url = new URL(answer.location, url).href
        }
        return 'it redirects in a loop'
      }
      catch (error) {
        return sayFault(error)
      }
    },
  }
}
