/** The public page of emails that their owner shares. */
import { html } from '#core/page/html'
import { shell, type Face } from '#core/page/shell'
import { sayDay } from '#core/time/say'
import type { Instant, ZoneName } from '#core/time/zone'

export interface SharedLetter { id: number, title: string, preview: string, at: Instant }

export interface ArchiveView extends Face {
  letters: readonly SharedLetter[]
  zone: ZoneName
  /** Paths on this site. */
  to: (letter: SharedLetter) => string
  feed: string
}

export const renderArchive = (view: ArchiveView): string =>
  shell({ title: `Emails from ${view.senderName}`, ...view }, html`<div class="rest"><h1>Emails from ${view.senderName}</h1>
${view.letters.length === 0 ? html`<p>There is nothing to read here yet.</p>` : html`<ul>${view.letters.map(letter => html`<li>
<a href="${view.to(letter)}">${letter.title}</a><br>${sayDay(letter.at, view.zone, true)}${letter.preview && html`<br>${letter.preview}`}</li>`)}</ul>`}
<p><a href="${view.feed}" type="application/atom+xml">Follow them by feed</a></p></div>`)
