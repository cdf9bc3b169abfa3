/** The public pages: opt-in, thanks, confirming, choices and notices. They work without JavaScript. */
import { hrefOf } from '#core/message/webAddress'
import { headlineOf, picturesOf, titleOf, type Drawn, type PageContent } from './content'
import { noMark, type Mark } from './editing'
import { formHtml, type FormView } from './formHtml'
import type { Html } from './html'
import { html, richText } from './html'
import type { PageTheme } from './theme'
import { picturePath } from './picture'
import { sectionHtml, type SectionView } from './sections'
import { shell, type Face } from './shell'
import type { PageText } from './text'
import type { Onward, Thanks } from './thanks'

export interface DrawnView extends Pick<SectionView, 'pictures' | 'at' | 'now' | 'zone'> {
  content: Drawn
  /** What visitors press: a form, or the price and the button of an offer. */
  box: Html
  mark: Mark
}

export interface PageView extends Face, Omit<DrawnView, 'mark'> {
  /** Whole address of the page, for where it is shared; empty on the canvas. */
  url: string
}

/** A whole page of sections, as its visitors get it. */
export function renderPage(view: PageView): string {
  const { content, url } = view
  const [shared] = content.meta.pictureId === null ? picturesOf(content) : [content.meta.pictureId]
  const site = url.slice(0, url.search(/\/[ps]\//))
  return shell({
    ...view, title: titleOf(content), theme: content.theme, apart: pictureApart(content, false) !== undefined,
    description: content.meta.description.trim(),
    pictureUrl: shared !== undefined && view.pictures.has(shared) && url !== '' ? `${site}${picturePath(shared, 'share')}` : null,
  }, pageHtml({ ...view, mark: noMark }))
}

export interface OptInView extends Omit<PageView, 'content' | 'box'>, Pick<FormView, 'fields' | 'action' | 'touch' | 'by' | 'filled'
  | 'problems'> {
  content: PageContent
}

export const renderOptIn = (view: OptInView): string =>
  renderPage({ ...view, box: formHtml({ ...view, form: view.content.form, mark: noMark }) })

/** The picture that stands apart from the rest, as the look says; what is hidden stands nowhere but on the canvas. */
const pictureApart = ({ theme, sections }: Drawn, editing: boolean) =>
  theme.picture === 'inside' ? undefined : sections.find(section => section.kind === 'picture' && (editing || !section.hidden))

/** What stands inside the page; on the canvas it is drawn again and again. */
export function pageHtml(view: DrawnView): Html {
  const { content, mark } = view
  const editing = mark !== noMark
  const sections: SectionView = { ...view, theme: content.theme, editing }
  const shown = content.sections.filter(section => editing || !section.hidden)
  const apart = pictureApart(content, editing)
  const rest = shown.filter(section => section !== apart).map(section => sectionHtml(section, sections))
  return apart
    ? html`<div class="apart">${sectionHtml(apart, sections)}</div><div class="rest">${rest}</div>`
    : html`<div class="rest">${rest}</div>`
}

/** The form alone, with its title, for another site. */
export function embeddedHtml(view: Pick<OptInView, 'content' | 'fields' | 'action' | 'touch' | 'filled' | 'problems'>): string {
  const { form, sections } = view.content
  const title = sections.find(section => section.kind === 'form')?.title.trim() || headlineOf(view.content)
  return html`<h2>${title}</h2>${formHtml({ ...view, form, mark: noMark })}`.source
}

/** What is read after it, in its place. */
export const wordsHtml = (headline: string, text: PageText): string => html`<h2 tabindex="-1">${headline}</h2>${richText(text)}`.source

interface Words extends Face { headline: string, text: PageText, theme: PageTheme }

/** What people read once their opt-in counts. */
export function renderThanks(view: Face & { thanks: Thanks, theme: PageTheme, note?: string }): string {
  const { headline, text, onward } = view.thanks
  return shell({
    title: headline, robots: 'noindex', ...view,
  }, html`<div class="rest">${view.note && html`<p class="done" role="status">${view.note}</p>`}
<h1>${headline}</h1>${richText(text)}${onwardHtml(onward)}</div>`)
}

function onwardHtml(onward: Onward[]): Html | '' {
  const items = onward.map(({ label, url }) => html`<li><a href="${hrefOf(url) ?? ''}" rel="noopener">${label}</a></li>`)
  return items.length === 0 ? '' : html`<ul class="onward">${items}</ul>`
}

/** What people read while their yes is awaited, with the address to look for. */
export function renderWait(view: Words & { senderAddress: string }): string {
  return shell({ title: view.headline, robots: 'noindex', ...view }, html`<div class="rest"><h1>${view.headline}</h1>${richText(view.text)}
<p class="look-for">Look for an email from <strong>${view.senderName}</strong>, ${view.senderAddress}. If it is not there in five minutes, look in your spam folder.</p></div>`)
}

export interface ConfirmView extends Face {
  theme: PageTheme
  action: string
  /** Shown with its middle hidden. */
  address: string
  /** What can be done: say yes, or ask for a new email. Null for nothing. */
  offers: 'yes' | 'again' | null
  headline: string
  words: string
  /** Leads back to the opt-in page. */
  back?: { url: string, label: string }
}

/** One button, pressed by a person: machines follow links, and none of them may say yes. */
export function renderConfirm(view: ConfirmView): string {
  return shell({ title: view.headline, robots: 'noindex', ...view }, html`<div class="rest">
<h1>${view.headline}</h1>
<p>${view.words}</p>
${view.offers && html`<form method="post" action="${view.action}"><button name="answer" value="${view.offers}">${view.offers === 'yes' ? 'Yes, it was me' : 'Send me a new email'}</button>
<p class="consent">For ${view.address}</p></form>`}
${view.back && html`<p><a href="${view.back.url}">${view.back.label}</a></p>`}</div>`)
}

export function renderNotice(view: Omit<Face, 'postalAddress'> & { title: string, text: string }): string {
  return shell({ robots: 'noindex', postalAddress: '', ...view }, html`<div class="rest"><h1>${view.title}</h1><p>${view.text}</p></div>`)
}

/** `margarida@example.com` as `mar…@example.com`. */
export function hideMiddle(address: string): string {
  const at = address.lastIndexOf('@')
  const shown = Math.min(3, Math.max(1, Math.floor(at / 2)))
  return `${address.slice(0, shown)}…${address.slice(at)}`
}
