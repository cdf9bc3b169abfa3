/** An email made into what is filled per person. A long one takes seconds, so a server does it in a thread (emailThread.ts). */
import type { Composer } from '#core/ports'
import { compileMessage } from '#core/message/compile'
import { foreignHtml } from './foreignHtml'

/** MJML is large, and most processes and threads never compile an email: it is loaded with the first one. */
export const loadMjml = () => import('mjml')

/** Throws where MJML cannot make anything of it. */
export async function toHtml(mjml: string): Promise<string> {
  const { default: mjml2html } = await loadMjml()
  const { html, errors } = await mjml2html(mjml, { validationLevel: 'soft' })
  if (errors.length > 0) throw new Error(`The email could not be made: ${errors.map(error => error.formattedMessage).join('; ')}`)
  return html
}

export const compileEmail: Composer['compile'] = async (content, frame, look) => {
  const { subject, mjml, text, places } = compileMessage(content, frame, foreignHtml, look)
  return { subject, html: places.read(await toHtml(mjml)), text }
}
