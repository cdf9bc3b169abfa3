/** MJML and MIME: what is made once per version, and what goes over the line. */
import mjml2html from 'mjml'
import type { Composer } from '#core/ports'
import { foreignHtml } from './foreignHtml'
import { writeMime } from './mime'

export function createComposer(): Composer {
  return {
    foreign: foreignHtml,

    async compile({ subject, mjml, text, places }) {
      const { html, errors } = await mjml2html(mjml, { validationLevel: 'soft' })
      if (errors.length > 0) throw new Error(`The email could not be made: ${errors.map(error => error.formattedMessage).join('; ')}`)
      return { subject, html: places.read(html), text }
    },

    compose: async (mail, made) => writeMime(mail, made),
  }
}
