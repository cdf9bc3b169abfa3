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
          words: `Somebody typed this address under “${headline}” and pressed “${content.form.buttonLabel}”. Say yes, and it begins. If it was not you, close this page, and nothing will come.`,
        }), 200, redirectsOf(content))
      case 'counted-already':
        return page(event, renderThanks({ ...face, thanks, ...getQuery(event).done !== '1'
          && { note: `You confirmed ${say(view.endedAt)}. It counts once, and nothing was sent a second time.` } }))
      case 'too-late':
        return page(event, renderConfirm({
          ...shown, offers: view.slug === null ? null : 'again', headline: 'This was too late',
          words: `The button in that email worked until ${sayMoment(view.expiresAt, zone)} (${sayZone(zone)}), so nothing was added. `
            + (view.slug === null ? 'The page it came from no longer exists.' : 'If you still want it, ask for a new email.'),
          back,
        }))
      case 'left-since':
        return page(event, renderConfirm({
          ...shown, offers: null, headline: 'You asked for no more mail',
          words: 'After you opted in, you left everything, and that is what we keep to. Nothing was given. If you have changed your mind, opt in once more.',
          back,
        }))
    }
  }
  catch (error) {
    return troublePage(event, error)
  }
})
