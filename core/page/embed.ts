/** The form of a page for any other site: plain HTML that works without a script, and a script that puts it there. */
import type { PageContent } from './content'
import { formHtml, type FormView } from './formHtml'
import { noMark } from './editing'
import { NO_TOUCH } from './touch'

/** HTML to be pasted. It carries no styles: it takes those of the site it stands on. `action`: whole address of the page. */
export function embedForm(content: PageContent, action: string, fields: FormView['fields']): string {
  return formHtml({ form: content.form, fields, action, touch: NO_TOUCH, mark: noMark, plain: true }).source.split('\n').map(line =>
    line.trim()).filter(Boolean).join('\n')
}

export type EmbedAs = 'inline' | 'slide-in'

/** `url`: whole address of the page. */
export function embedScript(url: string, as: EmbedAs): string {
  const { origin, pathname } = new URL(url)
  return `<script src="${origin}/embed.js" data-page="${pathname.slice(1)}"${as === 'slide-in' ? ' data-as="slide-in" data-after="20"' : ''} async></script>`
}
