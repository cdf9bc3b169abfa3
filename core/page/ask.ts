/** The page on which a reader presses a second time: what a link brings comes only then. */
import { hrefOf } from '#core/message/webAddress'
import { html } from './html'
import { shell, type Face } from './shell'

export interface AskView extends Face {
  action: string
  label: string
  /** Where the link leads. */
  url: string
  /** What was just done. */
  done: 'yes' | 'undone' | null
}

export function renderAsk(view: AskView): string {
  const { action, label, url, done, senderName } = view
  const onward = html`<p><a href="${hrefOf(url) ?? ''}" rel="noreferrer">Go on to ${URL.parse(url)?.hostname ?? url}</a></p>`
  return shell({ title: label, robots: 'noindex', ...view }, html`<div class="rest">
<h1>${done === 'yes' ? 'Noted' : done === 'undone' ? 'Undone' : label}</h1>
${done === 'yes' && html`<div class="done" role="status"><p>${senderName} now knows that you chose “${label}”.</p><form method="post" action="${action}"><button class="quiet" name="do" value="undo">Undo</button></form></div>`}
${done === 'undone' && html`<p role="status">Undone. It is as if you had not clicked “${label}”.</p>`}
${done === null && html`<p>One more click, so that no mail program answers for you.</p><form method="post" action="${action}"><button name="do" value="yes">Yes, that is what I want</button></form>`}
${onward}
</div>`)
}
