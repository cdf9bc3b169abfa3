/** Copies that somebody offers by a link, live: over HTTP. */
import type { CopyFetcher } from '#core/ports'
import { readOutside, sayFault } from './outside'

const PATIENCE_MS = 30_000

export function createCopyFetcher(options: { mostBytes: number, allowInside(): boolean }): CopyFetcher {
  return {
    async fetch(url) {
      try {
        const bytes = await readOutside({
          url, headers: { accept: 'application/json' }, timeoutMs: PATIENCE_MS, allowInside: options.allowInside(),
          mostBytes: options.mostBytes,
        })
        return { ok: true, bytes }
      }
      catch (error) {
        return { ok: false, problem: sayFault(error) }
      }
    },
  }
}
