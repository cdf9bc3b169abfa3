/** MJML and MIME: what is made once per version, and what goes over the line. */
import { LRUCache } from 'lru-cache'
import type { Composer } from '#core/ports'
import { foreignHtml } from './foreignHtml'
import { writeMime } from './mime'

/** MJML is large, and most processes and threads never compile an email. It is loaded with the first one, or earlier if people wait. */
export const loadMjml = () => import('mjml')

/** In letters, of sources and what is made of them: a few hundred emails. */
const MOST_KEPT = 16_000_000

/** HTML by its MJML, which is all that it depends on: an email that is written is looked at in five views, each asked for by itself. */
const htmlOf = new LRUCache<string, string>({
  // What makes room for others while it is still being made is nevertheless answered.
  ignoreFetchAbort: true, maxSize: MOST_KEPT, sizeCalculation: (html, mjml) => html.length + mjml.length,
  async fetchMethod(mjml) {
    const { default: mjml2html } = await loadMjml()
    const { html, errors } = await mjml2html(mjml, { validationLevel: 'soft' })
    if (errors.length > 0) throw new Error(`The email could not be made: ${errors.map(error => error.formattedMessage).join('; ')}`)
    return html
  },
})

export function createComposer(): Composer {
  return {
    foreign: foreignHtml,

    async compile({ subject, mjml, text, places }) {
      return { subject, html: places.read(await htmlOf.forceFetch(mjml)), text }
    },

    compose: async (mail, made) => writeMime(mail, made),
  }
}
