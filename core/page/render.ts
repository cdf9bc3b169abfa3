/** The public pages: opt-in, thanks, confirming, choices and notices. They work without JavaScript. */
import type { Onward, PageContent, Thanks } from './content'
import { picturesOf, titleOf } from './content'
import { noMark, type Mark } from './editing'
import { formHtml, type FormView } from './formHtml'
import type { Html } from './html'
import { html, richText } from './html'
import type { PageLook } from './look'
import { picturePath } from './picture'
import { sectionHtml, type SectionView } from './sections'
import { shell, type Face } from './shell'
import type { PageText } from './text'

export interface OptInView extends Face, Pick<SectionView, 'pictures' | 'at' | 'now' | 'zone'>, Pick<FormView, 'fields' | 'action' | 'touch' | 'filled' | 'problems'> {
  content: PageContent
  /** Whole address of the page, for where it is shared; empty on the canvas. */
  url: string
  /** Only on the canvas. */
  mark?: Mark
}

export function renderOptIn(view: OptInView): string {
  const { content, mark = noMark } = view
  const [shared] = content.meta.pictureId === null ? picturesOf(content) : [content.meta.pictureId]
  const site = view.url.slice(0, view.url.indexOf('/p/'))
  return shell({
    ...view, title: titleOf(content), look: content.look, description: content.meta.description.trim(),
    pictureUrl: shared !== undefined && view.pictures.has(shared) && view.url !== '' ? `${site}${picturePath(shared, 'share')}` : null,
  }, pageHtml({ ...view, mark }))
}

/** What stands inside the page; on the canvas it is drawn again and again. */
export function pageHtml(view: Omit<OptInView, keyof Face | 'url'> & { mark: Mark }): Html {
  const { content, mark } = view
  const editing = mark !== noMark
  const form = formHtml({ ...view, form: content.form, mark })
  const sections: SectionView = { ...view, look: content.look, editing, form }
  const shown = content.sections.filter(section => editing || !section.hidden)
  const apart = content.look.picture === 'inside' ? undefined : shown.find(section => section.kind === 'picture')
  const rest = shown.filter(section => section !== apart).map(section => sectionHtml(section, sections))
  return apart ? html`<div class="apart">${sectionHtml(apart, sections)}</div><div class="rest">${rest}</div>` : html`<div class="rest">${rest}</div>`
}

interface Words extends Face { headline: string, text: PageText, look: PageLook }

/** What people read once their opt-in counts. */
export function renderThanks(view: Face & { thanks: Thanks, look: PageLook, note?: string }): string {
  const { headline, text, onward } = view.thanks
  return shell({ title: headline, robots: 'noindex', ...view }, html`<div class="rest">${view.note && html`<p class="done" role="status">${view.note}</p>`}
<h1>${headline}</h1>${richText(text)}${onwardHtml(onward)}</div>`)
}

function onwardHtml(onward: Onward[]): Html | '' {
  return onward.length === 0 ? '' : html`<ul class="onward">${onward.map(({ label, url }) => html`<li><a href="${url}" rel="noopener">${label}</a></li>`)}</ul>`
}

/** What people read while their yes is awaited, with the address to look for. */
export function renderWait(view: Words & { senderAddress: string }): string {
  return shell({ title: view.headline, robots: 'noindex', ...view }, html`<div class="rest"><h1>${view.headline}</h1>${richText(view.text)}
<p class="look-for">Look for an email from <strong>${view.senderName}</strong>, ${view.senderAddress}. If it is not there in five minutes, look in the folder for unwanted mail.</p></div>`)
}

export interface ConfirmView extends Face {
  look: PageLook
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

export interface ChoicesView extends Face {
  action: string
  /** Shown with its middle hidden, so that a forwarded link does not give the address away. */
  address: string
  course: { name: string, inside: boolean } | null
  lists: { id: number, name: string, description: string, joined: boolean }[]
  gone: boolean
  /** What was just done, in words. */
  done?: string
}

export function renderChoices(view: ChoicesView): string {
  const joined = view.lists.filter(list => list.joined)
  return shell({ title: 'What you get from us', robots: 'noindex', ...view }, html`<div class="rest">
<h1>What you get from us</h1>
<p>For ${view.address}</p>
${view.done && html`<p class="done" role="status">${view.done}</p>`}
${view.gone
  ? html`<p>You get no emails from ${view.senderName}. If you change your mind, opt in again on one of our pages.</p>`
  : html`
${view.course?.inside && choice(view.action, 'course', html`You are inside the email course <strong>${view.course.name}</strong>.`, 'Leave only this course')}
${joined.map(list => choice(view.action, `list-${list.id}`, html`<strong>${list.name}</strong>. ${list.description}`, `Leave ${list.name}`))}
${joined.length === 0 && html`<p>You are on none of our lists.</p>`}
${choice(view.action, 'everything', html`No more emails of any kind.`, 'Leave everything')}`}</div>`)
}

function choice(action: string, what: string, say: Html, label: string): Html {
  return html`<form method="post" action="${action}" class="choice"><p>${say}</p><button class="quiet" name="leave" value="${what}">${label}</button></form>`
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
