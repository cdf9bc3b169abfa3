/** The button of an offer's page is pressed: to pay, or to hear of it later. */
import type { H3Event } from 'h3'
import { defineEventHandler, getHeader, sendRedirect } from 'h3'
import { TRAP_FIELD } from '#core/page/formHtml'
import { readTouch, touchOf } from '#core/page/touch'
import { formWithin } from '#server/body'
import { log, openWorkspaces } from '#server/workspaces'
import { hostOf, originOfVisitor, visitorIp } from '#server/visitor'
import { offerForm } from '#server/offerSchemas'
import { startCheckout } from '#usecases/offers/checkout'
import { waitForOffer } from '#usecases/offers/wait'
import { InputProblem, NotNow } from '#usecases/problem'
import { publishedOfferAt } from '#usecases/views/publicOffers'
import { maySeeCode, offerPage, TOO_MANY_CODES } from './offerPage'
import { formOf, contextAt, pathAt, slugOfEvent, troublePage } from './page'

const MOST_BYTES = 16_384

export default defineEventHandler(async (event) => {
  try {
    const context = contextAt(event)
    const offer = publishedOfferAt(context, slugOfEvent(event))
    const whole = await formWithin(event, MOST_BYTES)
    const form = formOf(offerForm, whole ?? new URLSearchParams())
    const filled = { email: form.email, firstName: form.first_name }
    const touch = form.touch === '' ? touchOf({}, getHeader(event, 'referer'), hostOf(event)) : readTouch(form.touch)
    const again = (status: number, problems: Record<string, string>) =>
      offerPage(event, context, offer, { touch, code: form.code, filled, problems }, status)

    if (whole === null) {
      return again(413, { form: 'This is more than the form can take. Please write less and try again.' })
    }
    if (form[TRAP_FIELD]) {
      // A robot is sent where it looks done, so that it learns nothing.
      log.info({ slug: offer.slug }, 'a robot was turned away')
      return sendRedirect(event, pathAt(event, `/s/${offer.slug}/thanks?wait=1`), 303)
    }
    if (!await openWorkspaces().optIns.allows(originOfVisitor(event))) {
      return again(429, { form: 'Too many tries from your network. Please wait ten minutes and try again.' })
    }
    const buys = form.wish !== 'wait'
    if (buys && !await mayBuy(event, form.email)) {
      return again(429, { form: 'Too many tries. Please wait ten minutes and try again.' })
    }
    if (buys && !await maySeeCode(event, form.code)) {
      return offerPage(event, context, offer, { touch, code: '', filled, problems: { code: TOO_MANY_CODES } }, 429)
    }
    const pressed = {
      slug: offer.slug, ...filled, meant: form.meant, code: form.code, zone: form.zone, ip: visitorIp(event),
      origin: originOfVisitor(event), touch,
    }
    try {
      if (!buys) {
        waitForOffer(context, pressed)
        return sendRedirect(event, pathAt(event, `/s/${offer.slug}/thanks?wait=1`), 303)
      }
      return sendRedirect(event, (await startCheckout(context, pressed)).url, 303)
    }
    catch (error) {
      if (error instanceof InputProblem) return again(422, Object.fromEntries(error.problems.map(({ field, problem }) => [field, problem])))
      if (error instanceof NotNow) return again(409, { form: error.message })
      throw error
    }
  }
  catch (error) {
    return troublePage(event, error)
  }
})

/** By where they are, and by whose address they type. */
async function mayBuy(event: H3Event, email: string): Promise<boolean> {
  const { buys } = openWorkspaces()
  return await buys.allows(originOfVisitor(event)) && await buys.allows(`to ${email.trim().toLowerCase()}`)
}
