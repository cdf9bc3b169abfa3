/** The public pages of what is sold: an offer's page, and a buyer's own. They work without JavaScript. */
import { noMark } from '#core/page/editing'
import { html, type Html } from '#core/page/html'
import { ourTheme, type PageTheme } from '#core/page/theme'
import { renderPage, type PageView } from '#core/page/render'
import { shell, type Face } from '#core/page/shell'
import { paragraphs } from '#core/page/text'
import type { Thanks } from '#core/page/thanks'
import { sayDay } from '#core/time/say'
import type { Instant, ZoneName } from '#core/time/zone'
import { boxHtml, type BoxView } from './boxHtml'
import type { OfferContent } from './offer'
import { receiptHtml, type Receipt } from './receipt'

export interface OfferPageView extends Omit<PageView, 'content' | 'box'>, Omit<BoxView, 'mark'> {}

export const renderOffer = (view: OfferPageView): string => renderPage({ ...view, box: boxHtml({ ...view, mark: noMark }) })

/** For who has pressed the button of a waiting list that asks everybody to confirm. */
export const ASKED: Thanks = {
  headline: 'One more step',
  text: paragraphs('We have sent you an email. Click the button in it to join the waiting list.'),
  onward: [],
}

/** For who is on the waiting list now. */
export function thanksForWaiting(name: string, { places }: Pick<OfferContent, 'places'>): Thanks {
  const order = places === null ? '' : ' Places are few. People hear about it in the order they joined.'
  return {
    headline: 'You are on the list', text: paragraphs(`As soon as ${name} can be bought, you get an email.${order}`), onward: [],
  }
}

/** One purchase, as its buyer sees it. */
export interface OwnedView {
  title: string
  /** As a sentence each: when it was bought and how it stands. */
  says: string[]
  isOver: boolean
  /** Where its file is fetched. */
  file: { url: string, name: string } | null
  receipts: { url: string, words: string }[]
  /** Where it can be ended, and what is kept until when; null where nothing can be. */
  end: { action: string, words: string } | null
}

export function renderBuyer(view: Face & { theme?: PageTheme, name: string, owned: OwnedView[], note?: string }): string {
  return shell({ title: 'What you have bought', robots: 'noindex', theme: ourTheme(), ...view }, html`<div class="rest">
${view.note && html`<p class="done" role="status">${view.note}</p>`}
<h1>What you have bought</h1>
<p class="under">${view.name === '' ? 'This page is yours alone' : `${view.name}, this page is yours alone`}: anyone with its address can see it.</p>
${view.owned.map(owned)}</div>`)
}

function owned({ title, says, isOver, file, receipts, end }: OwnedView): Html {
  return html`<section class="owned${isOver && ' over'}"><h2>${title}</h2>
${says.map(sentence => html`<p>${sentence}</p>`)}
${file && html`<p><a class="fetch" href="${file.url}">Open ${file.name}</a></p>`}
${receipts.length > 0 && html`<ul class="receipts">${receipts.map(({ url, words }) => html`<li><a href="${url}">${words}</a></li>`)}</ul>`}
${end && html`<details><summary>Cancel it</summary><div><p>${end.words}</p><form method="post" action="${end.action}"><button class="quiet">Yes, cancel it</button></form></div></details>`}
</section>`
}

/** One receipt, to be printed or kept. */
export function renderReceipt(view: Face & { receipt: Receipt, back: string }): string {
  return shell(
    { title: `Receipt ${view.receipt.number}`, robots: 'noindex', ...view },
    html`<div class="rest"><h1>Receipt</h1>${receiptHtml(view.receipt, 'page')}<p class="no-print"><a href="${view.back}">Back to what you have bought</a></p></div>`,
  )
}

/** `on Thu 26 Nov 2026` */
export const onDay = (at: Instant, zone: ZoneName): string => `on ${sayDay(at, zone, true)}`

export interface PayView extends Face {
  title: string
  lines: { words: string, amount: string }[]
  /** What all of it comes to, where it is more than is paid now. */
  whole: string | null
  total: string
  later: string | null
  buyer: string
  until: string
  action: string
  backUrl: string
  cards: { key: string, name: string }[]
  problem?: string
}

/** The page of the payment stand-in. It says what it is before anything else. */
export function renderPay(view: PayView): string {
  return shell({
    ...view, title: 'Practice checkout', robots: 'noindex', theme: { ...ourTheme(), colour: 'sand', width: 'narrow' },
  }, html`<div class="rest">
<p class="done" role="note"><strong>No money moves here.</strong> This is the checkout of the practice workspace: choose how the payment ends.</p>
<h1>Pay for ${view.title}</h1>
<table class="receipt">${view.lines.map(({ words, amount }) => html`<tr><td>${words}</td><td>${amount}</td></tr>`)}${view.whole && html`<tr class="total"><td>In total</td><td>${view.whole}</td></tr>`}<tr class="total"><td>To pay now</td><td>${view.total}</td></tr></table>
${view.later && html`<p>${view.later}</p>`}
<p class="consent">For ${view.buyer}. It is kept for you until ${view.until}.</p>
${view.problem && html`<p class="problem" role="alert">${view.problem}</p>`}
<form method="post" action="${view.action}" class="pay"><fieldset><legend>Pay with</legend>
${view.cards.map(({ key, name }, n) => html`<label class="option"><input type="radio" name="card" value="${key}" ${n === 0 && 'checked'}> <span>${name}</span></label>`)}</fieldset>
<p class="ways"><button>Pay ${view.total}</button> <a href="${view.backUrl}">Go back without paying</a></p></form></div>`)
}
