/** The public pages: opt-in, thanks, choices and notices. They work without JavaScript. */
import type { PageContent } from './content'
import type { PageText } from './text'
import type { Html } from './html'
import { html, richText } from './html'
import { writeTouch, type Touch } from './touch'

/** Where the files of the public pages are; the script only tells the visitor's zone, and is left out where nothing may run. */
export interface PublicFiles { css: string, script: string | null }

interface Shell { title: string, senderName: string, files: PublicFiles, postalAddress?: string, robots?: 'noindex' }

function shell(parts: Shell, main: Html): string {
  return `<!doctype html>
${html`<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1">
<title>${parts.title}</title>${parts.robots && html`<meta name="robots" content="noindex">`}
<link rel="stylesheet" href="${parts.files.css}"></head>
<body><main>${main}</main>
<footer>${parts.senderName}${parts.postalAddress && html`, ${parts.postalAddress.replaceAll('\n', ', ')}`}</footer>
${parts.files.script && html`<script src="${parts.files.script}" defer></script>`}</body></html>`}`
}

export interface OptInView {
  content: PageContent
  senderName: string
  postalAddress: string
  files: PublicFiles
  /** Where the form is sent. */
  action: string
  /** What brought the visitor; the form carries it along. */
  touch: Touch
  typed?: { email: string, firstName: string }
  problems?: { email?: string, firstName?: string, form?: string }
}

/** Name of the field that people do not see and robots fill in. */
export const TRAP_FIELD = 'website'

export function renderOptIn(view: OptInView): string {
  const { content, typed, problems = {} } = view
  const told = writeTouch(view.touch)
  return shell({ title: content.headline, ...view }, html`
<h1>${content.headline}</h1>
${richText(content.text)}
<form method="post" action="${view.action}" novalidate>
${problems.form && html`<p class="problem" role="alert">${problems.form}</p>`}
${content.asksFirstName && field({
  name: 'first_name', label: content.firstNameRequired ? 'First name' : 'First name (if you like)', value: typed?.firstName, problem: problems.firstName,
  rest: html`type="text" autocomplete="given-name" maxlength="80" ${content.firstNameRequired && 'required'}`,
})}
${field({ name: 'email', label: 'Email address', value: typed?.email, problem: problems.email, rest: html`type="email" autocomplete="email" inputmode="email" required` })}
<div class="aside" aria-hidden="true"><label for="${TRAP_FIELD}">Leave this empty</label><input id="${TRAP_FIELD}" name="${TRAP_FIELD}" tabindex="-1" autocomplete="off"></div>
<input type="hidden" name="zone" value="" data-zone>
${told !== '' && html`<input type="hidden" name="touch" value="${told}">`}
<button type="submit">${content.buttonLabel}</button>
<p class="consent">${content.consentWording}</p>
</form>`)
}

function field(input: { name: string, label: string, value?: string, problem?: string, rest: Html }): Html {
  const noteId = `${input.name}-problem`
  return html`<div class="field"><label for="${input.name}">${input.label}</label>
<input id="${input.name}" name="${input.name}" value="${input.value}" ${input.rest} ${input.problem && html`aria-invalid="true" aria-describedby="${noteId}" autofocus`}>
${input.problem && html`<p class="problem" id="${noteId}">${input.problem}</p>`}</div>`
}

interface Words { headline: string, text: PageText, senderName: string, postalAddress: string, files: PublicFiles }

/** What people read once their opt-in counts. */
export function renderThanks(view: Words & { note?: string }): string {
  return shell({ title: view.headline, robots: 'noindex', ...view }, html`${view.note && html`<p class="done" role="status">${view.note}</p>`}
<h1>${view.headline}</h1>${richText(view.text)}`)
}

/** What people read while their yes is awaited, with the address to look for. */
export function renderWait(view: Words & { senderAddress: string }): string {
  return shell({ title: view.headline, robots: 'noindex', ...view }, html`<h1>${view.headline}</h1>${richText(view.text)}
<p class="look-for">Look for an email from <strong>${view.senderName}</strong>, ${view.senderAddress}. If it is not there in five minutes, look in the folder for unwanted mail.</p>`)
}

export interface ConfirmView {
  senderName: string
  postalAddress: string
  files: PublicFiles
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
  return shell({ title: view.headline, robots: 'noindex', ...view }, html`
<h1>${view.headline}</h1>
<p>${view.words}</p>
${view.offers && html`<form method="post" action="${view.action}"><button name="answer" value="${view.offers}">${view.offers === 'yes' ? 'Yes, it was me' : 'Send me a new email'}</button>
<p class="consent">For ${view.address}</p></form>`}
${view.back && html`<p><a href="${view.back.url}">${view.back.label}</a></p>`}`)
}

export interface ChoicesView {
  senderName: string
  postalAddress: string
  files: PublicFiles
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
  return shell({ title: 'What you get from us', robots: 'noindex', ...view }, html`
<h1>What you get from us</h1>
<p>For ${view.address}</p>
${view.done && html`<p class="done" role="status">${view.done}</p>`}
${view.gone
  ? html`<p>You get no emails from ${view.senderName}. If you change your mind, opt in again on one of our pages.</p>`
  : html`
${view.course?.inside && choice(view.action, 'course', html`You are inside the email course <strong>${view.course.name}</strong>.`, 'Leave only this course')}
${joined.map(list => choice(view.action, `list-${list.id}`, html`<strong>${list.name}</strong>. ${list.description}`, `Leave ${list.name}`))}
${joined.length === 0 && html`<p>You are on none of our lists.</p>`}
${choice(view.action, 'everything', html`No more emails of any kind.`, 'Leave everything')}`}`)
}

function choice(action: string, what: string, say: Html, label: string): Html {
  return html`<form method="post" action="${action}" class="choice"><p>${say}</p><button class="quiet" name="leave" value="${what}">${label}</button></form>`
}

export function renderNotice(view: { title: string, text: string, senderName: string, files: PublicFiles }): string {
  return shell({ robots: 'noindex', ...view }, html`<h1>${view.title}</h1><p>${view.text}</p>`)
}

/** `margarida@example.com` as `mar…@example.com`. */
export function hideMiddle(address: string): string {
  const at = address.lastIndexOf('@')
  const shown = Math.min(3, Math.max(1, Math.floor(at / 2)))
  return `${address.slice(0, shown)}…${address.slice(at)}`
}
