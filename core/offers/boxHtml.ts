/** The price and the button of an offer's page, or what stands there while it cannot be bought. */
import { noMark, type Mark } from '#core/page/editing'
import { line, trap, whoHtml, type Filled } from '#core/page/formHtml'
import { html, type Html } from '#core/page/html'
import { writeTouch, type Touch } from '#core/page/touch'
import type { ZoneName } from '#core/time/zone'
import type { Coupon } from './coupon'
import type { OfferContent, Standing } from './offer'
import { sayCut, sayPrice, sayPriceWith, sayStanding } from './say'

export interface BoxView {
  content: OfferContent
  standing: Standing
  zone: ZoneName
  /** True where there is any: then the form asks for a code. */
  hasCoupons: boolean
  /** The coupon of the code that was typed or came with the address, if it counts now. */
  coupon: Coupon | null
  code: string
  action: string
  touch: Touch
  filled?: Pick<Filled, 'email' | 'firstName'>
  /** By what asked: `email`, `email-meant`, `firstName`, `code`, or `form` for all of it. */
  problems?: Record<string, string>
  mark: Mark
}

export function boxHtml(view: BoxView): Html {
  const { content, standing, zone, coupon, code, mark, problems = {} } = view
  const { form, price } = content
  // On the canvas it is always to be seen as buyers see it.
  if (standing.is !== 'open' && mark === noMark) return waitingHtml(view)
  const says = standing.is === 'open' ? sayStanding(standing, zone) : ''
  return html`<div class="offer">
<p class="price">${coupon ? html`<s>${sayPrice(price)}</s> <strong>${sayPriceWith(price, coupon)}</strong> <span class="cut">${coupon.code}: ${sayCut(coupon, price)}</span>` : html`<strong>${sayPrice(price)}</strong>`}</p>
${standing.is === 'open' && (standing.until !== null || standing.left !== null) && html`<p class="stands">${says}.</p>`}
<form method="post" action="${view.action}" novalidate>
${problems.form && html`<p class="problem" role="alert">${problems.form}</p>`}
${whoHtml(form.firstName, view.filled, problems)}
${view.hasCoupons && line({ name: 'code', label: 'Coupon (if you have one)', value: code, problem: problems.code, rest: html`type="text" autocomplete="off" autocapitalize="characters" maxlength="60"` })}
${hidden(view)}
${mark === noMark ? html`<button type="submit">${form.buttonLabel}</button>` : html`<p><span class="as-button"${mark('form/buttonLabel', 'line', 'Words of the button')}>${form.buttonLabel}</span></p>`}
<p class="consent"${mark('form/consentWording', 'line', 'What buyers agree to')}>${form.consentWording}</p>
</form></div>`
}

/** While it cannot be bought: how it stands, and a list for who wants to hear of it. */
function waitingHtml(view: BoxView): Html {
  const { content: { waiting, form }, standing, zone, problems = {} } = view
  return html`<div class="offer">
<p class="price"><strong>${sayStanding(standing, zone)}.</strong></p>
${waiting && html`<p>${waiting.words}</p>
<form method="post" action="${view.action}" novalidate>
${problems.form && html`<p class="problem" role="alert">${problems.form}</p>`}
${whoHtml(form.firstName, view.filled, problems)}
${hidden(view)}<input type="hidden" name="wish" value="wait">
<button type="submit">${waiting.buttonLabel}</button>
<p class="consent">${waiting.consentWording}</p>
</form>`}</div>`
}

function hidden({ touch, filled, problems = {} }: BoxView): Html {
  const told = writeTouch(touch)
  return html`${trap()}${problems['email-meant'] && html`<input type="hidden" name="meant" value="${filled?.email}">`}${told !== '' && html`<input type="hidden" name="touch" value="${told}">`}`
}
