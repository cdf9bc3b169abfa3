/** MJML and MIME: what is made once per version, and what goes over the line. */
import type { Composer } from '#core/ports'
import { foreignHtml } from './foreignHtml'
import { writeMime } from './mime'

/** What makes emails is large, and most processes and threads make none: it is read in with the first, or ahead where people wait. */
export const readInComposer = () => import('mjml')

export function createComposer(): Composer {
  return {
    foreign: foreignHtml,

    async compile({ subject, mjml, text, places }) {
      const { default: mjml2html } = await readInComposer()
      const { html, errors } = await mjml2html(mjml, { validationLevel: 'soft' })
      if (errors.length > 0) throw new Error(`The email could not be made: ${errors.map(error => error.formattedMessage).join('; ')}`)
      return { subject, html: places.read(html), text }
    },

    compose: async (mail, made) => writeMime(mail, made),
  }
}
