/** MJML, Liquid and MIME: what is made once per version, what per person, and what goes over the line. */
import { Liquid, type Template } from 'liquidjs'
import mjml2html from 'mjml'
import MailComposer from 'nodemailer/lib/mail-composer'
import type { CompiledMessage, Composer } from '#core/ports'

export function createComposer(): Composer {
  const liquid = new Liquid({ strictVariables: false, jsTruthy: false, ownPropertyOnly: true })
  // The same few templates are filled for thousands of people: parse each once.
  const parsed = new WeakMap<CompiledMessage, { subject: Template[], html: Template[], text: Template[] }>()

  return {
    async compile(templates) {
      const { html, errors } = await mjml2html(templates.mjml, { validationLevel: 'soft' })
      if (errors.length > 0) throw new Error(`The email could not be made: ${errors.map(error => error.formattedMessage).join('; ')}`)
      return { subject: templates.subject, html, text: templates.text }
    },

    fill(compiled, personal) {
      let templates = parsed.get(compiled)
      if (!templates) {
        templates = { subject: liquid.parse(compiled.subject), html: liquid.parse(compiled.html), text: liquid.parse(compiled.text) }
        parsed.set(compiled, templates)
      }
      const fill = (template: Template[]) => liquid.renderSync(template, personal) as string
      return { subject: fill(templates.subject).replace(/\s+/g, ' ').trim(), html: fill(templates.html), text: fill(templates.text) }
    },

    async compose(mail) {
      return await new MailComposer({
        from: mail.from,
        to: mail.to,
        subject: mail.subject,
        messageId: mail.messageId,
        date: new Date(mail.at),
        // Ready as they are: encoding would make the list's identifier unreadable for machines.
        headers: Object.fromEntries(Object.entries(mail.headers).map(([key, value]) =>
          [key, { prepared: true, foldLines: key !== 'List-Unsubscribe', value }])) as never,
        newline: 'windows',
        text: mail.text,
        html: mail.html,
        disableFileAccess: true,
        disableUrlAccess: true,
      }).compile().build()
    },
  }
}
