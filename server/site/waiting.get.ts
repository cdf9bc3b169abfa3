/** Where the button leads that asks for a yes to a waiting list: shows how it stands, and changes nothing. */
import { defineEventHandler, getQuery } from 'h3'
import { thanksForWaiting } from '#core/offers/render'
import { newTheme } from '#core/page/theme'
import { hideMiddle, renderConfirm, renderThanks } from '#core/page/render'
import { readWaitToken, waitView, type WaitOutcome } from '#usecases/offers/wait'
import { publicFace } from '#usecases/views/publicPages'
import { FILES, contextAt, page, pathAt, tokenOf, troublePage } from './page'

const SAYS: Record<Exclude<WaitOutcome, 'waits-already' | 'counts'>, { headline: string, words: string }> = {
  'told-already': { headline: 'You have heard of it', words: 'The email that it can be bought has gone to you already.' },
  'too-late': { headline: 'This was too late', words: 'The button in that email worked for seven days. Ask once more on the page itself.' },
  'over': {
    headline: 'There is nothing to wait for',
    words: 'You have left, or have it already, or it is no longer offered. Nothing was changed.',
  },
}

export default defineEventHandler((event) => {
  try {
    const context = contextAt(event)
    const { outcome, offer, address } = waitView(context, readWaitToken(context, tokenOf(event)))
    const face = { ...publicFace(context), files: FILES, theme: offer?.content.theme ?? newTheme() }
    if (outcome === 'waits-already') {
      const note = { note: 'You have already confirmed. It counts once.' }
      return page(
        event, renderThanks({ ...face, thanks: thanksForWaiting(offer!.name, offer!.content), ...getQuery(event).done !== '1' && note }),
      )
    }
    const asks = (name: string) => ({
      headline: 'Was it you?',
      words: `Somebody typed this address on the waiting list of “${name}”. Say yes, and you hear of it. If it was not you, close this page, and nothing will come.`,
    })
    const back = offer && outcome !== 'counts' ? { back: { url: pathAt(event, `/s/${offer.slug}`), label: `Back to “${offer.name}”` } } : {}
    return page(event, renderConfirm({
      ...face, action: pathAt(event, `/w/${tokenOf(event)}`), address: hideMiddle(address), offers: outcome === 'counts' ? 'yes' : null,
      ...outcome === 'counts' ? asks(offer!.name) : SAYS[outcome], ...back,
    }))
  }
  catch (error) {
    return troublePage(event, error)
  }
})
