/** What is made once per version of an email, and what goes over the line. */
import { LRUCache } from 'lru-cache'
import type { Composer } from '#core/ports'
import type { CompiledMessage } from '#core/message/fill'
import { writeMime } from './mime'

/** In letters, of what is asked and what is made of it: a few hundred emails. */
const MOST_KEPT = 16_000_000

const compileHere: Composer['compile'] = async (...asked) => (await import('./compileEmail')).compileEmail(...asked)

/** `compile`: where emails are made, if not in this thread. */
export function createComposer(compile = compileHere): Composer {
  /** By all that it depends on: an email that is written is looked at in five views, each asked for by itself. */
  const compiled = new LRUCache<string, CompiledMessage, Parameters<Composer['compile']>>({
    // What makes room for others while it is still being made is nevertheless answered.
    ignoreFetchAbort: true, maxSize: MOST_KEPT, sizeCalculation: (made, asked) => asked.length + JSON.stringify(made).length,
    fetchMethod: (_key, _stale, { context }) => compile(...context),
  })
  return {
    compile(content, { because, isWatched }, look) {
      // Nothing of a kind but what is seen in its emails: the rest of it cannot be sent to a thread.
      const asked: Parameters<Composer['compile']> = [content, { because, isWatched }, look]
      return compiled.forceFetch(JSON.stringify(asked), { context: asked })
    },

    compose: async (mail, made) => writeMime(mail, made),
  }
}
