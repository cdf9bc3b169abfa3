/** Where the button of a confirmation email leads: shows how it stands, and changes nothing. */
import { defineEventHandler, getQuery } from 'h3'
import { headlineOf } from '#core/page/content'
import { hideMiddle, renderConfirm, renderThanks } from '#core/page/render'
import { endingOf, redirectsOf } from '#core/page/cameTo'
import { sayMoment, sayZone } from '#core/time/say'
import type { Instant } from '#core/time/zone'
import { confirmationView, readConfirmToken } from '#usecases/arrive/confirm'
import { publicFace, publicZone } from '#usecases/views/publicPages'
import { FILES, contextAt, page, pathAt, tokenOf, troublePage } from './page'

export default defineEventHandler((event) => {
  try {
    const context = contextAt(event)
    const view = confirmationView(context, readConfirmToken(context, tokenOf(event)))
    const face = { ...publicFace(context), files: FILES, theme: view.page.content.theme }
    const { content } = view.page
    const headline = headlineOf(content)
    const { thanks } = endingOf(content, view.cameTo)
    const zone = publicZone(context)
    const say = (at: Instant | null) => at === null ? 'before' : `on ${sayMoment(at, zone)} (${sayZone(zone)})`
    const back = view.slug === null ? undefined : { url: pathAt(event, `/p/${view.slug}`), label: `Back to “${headline}”` }
    const shown = { ...face, action: pathAt(event, `/c/${tokenOf(event)}`), address: hideMiddle(view.address) }
    switch (view.outcome) {
      case 'counts':
        return page(event, renderConfirm({
          ...shown, offers: 'yes', headline: 'Was it you?',
          words: `Someone typed this address on “${headline}” and clicked “${content.form.buttonLabel}”. If it was you, confirm. If not, close this page, and you will get nothing.`,
        }), 200, redirectsOf(content))
      case 'counted-already':
        return page(event, renderThanks({ ...face, thanks, ...getQuery(event).done !== '1'
          && { note: `You confirmed ${say(view.endedAt)}. It counts only once, and nothing was sent again.` } }))
      case 'too-late':
        return page(event, renderConfirm({
          ...shown, offers: view.slug === null ? null : 'again', headline: 'This link has expired',
          words: `The button in that email worked until ${sayMoment(view.expiresAt, zone)} (${sayZone(zone)}), so nothing was added. `
            + (view.slug === null ? 'The page it came from no longer exists.' : 'If you still want it, ask for a new email.'),
          back,
        }))
      case 'left-since':
        return page(event, renderConfirm({
          ...shown, offers: null, headline: 'You unsubscribed',
          words: 'You unsubscribed after you opted in, so nothing was added. If you have changed your mind, opt in again.',
          back,
        }))
    }
  }
  catch (error) {
    return troublePage(event, error)
  }
})
