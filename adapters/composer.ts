/** MJML and MIME: what is made once per version, and what goes over the line. */
import type { Composer } from '#core/ports'
import { foreignHtml } from './foreignHtml'
import { writeMime } from './mime'

/** MJML is large, and most processes and threads never compile an email. It is loaded with the first one, or earlier if people wait. */
export const loadMjml = () => import('mjml')

export function createComposer(): Composer {
  return {
    foreign: foreignHtml,

    async compile({ subject, mjml, text, places }) {
      const { default: mjml2html } = await loadMjml()
      const { html, errors } = await mjml2html(mjml, { validationLevel: 'soft' })
      if (errors.length > 0) throw new Error(`The email could not be made: ${errors.map(error => error.formattedMessage).join('; ')}`)
      return { subject, html: places.read(html), text }
    },

    compose: async (mail, made) => writeMime(mail, made),
  }
}
