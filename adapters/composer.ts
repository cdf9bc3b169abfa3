/** MJML and MIME: what is made once per version, and what goes over the line. */
import type mjml2html from 'mjml'
import { createRequire } from 'node:module'
import type { Composer } from '#core/ports'
import { foreignHtml } from './foreignHtml'
import { writeMime } from './mime'

const require = createRequire(import.meta.url)
/** It is large, and most processes and threads never make an email: it is read in when the first one is. */
const readIn = () => require('mjml') as typeof mjml2html

export function createComposer(): Composer {
  return {
    foreign: foreignHtml,

    async compile({ subject, mjml, text, places }) {
      const { html, errors } = await readIn()(mjml, { validationLevel: 'soft' })
      if (errors.length > 0) throw new Error(`The email could not be made: ${errors.map(error => error.formattedMessage).join('; ')}`)
      return { subject, html: places.read(html), text }
    },

    compose: async (mail, made) => writeMime(mail, made),
  }
}
