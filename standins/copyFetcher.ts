/** Copies that somebody offers by a link, in practice: no other site is asked. Those of this installation never come to it. */
import type { CopyFetcher } from '#core/ports'

export const createPracticeCopyFetcher = (): CopyFetcher => ({
  fetch: async () => ({ ok: false, problem: 'practice asks no other site. Save the copy as a file there, and import the file' }),
})
