/** Where the button leads that asks for a yes to a waiting list: shows how it stands, and changes nothing. */
import { defineEventHandler, getQuery } from 'h3'
import { thanksForWaiting } from '#core/offers/render'
import { ourTheme } from '#core/page/theme'
import { hideMiddle, renderConfirm, renderThanks } from '#core/page/render'
import { readWaitToken, waitView, type WaitOutcome } from '#usecases/offers/wait'
import { publicFace } from '#usecases/views/publicPages'
import { FILES, contextAt, page, pathAt, tokenOf, troublePage } from './page'

const SAYS: Record<Exclude<WaitOutcome, 'waits-already' | 'counts'>, { headline: string, words: string }> = {
  'told-already': { headline: 'You have already been told', words: 'We have already emailed you that it can be bought.' },
  'too-late': {
    headline: 'This link has expired', words: 'The button in that email worked for seven days. You can join again on the page.',
  },
  'over': {
    headline: 'There is nothing to wait for',
    words: 'You left the list, already have it, or it is no longer offered. Nothing was changed.',
  },
}

export default defineEventHandler((event) => {
  try {
    const context = contextAt(event)
    const { outcome, offer, address } = waitView(context, readWaitToken(context, tokenOf(event)))
    const face = { ...publicFace(context), files: FILES, theme: offer?.content.theme ?? ourTheme() }
    if (outcome === 'waits-already') {
      const note = { note: 'You have already confirmed.' }
      return page(
        event, renderThanks({ ...face, thanks: thanksForWaiting(offer!.name, offer!.content), ...getQuery(event).done !== '1' && note }),
      )
    }
    const asks = (name: string) => ({
      headline: 'Was it you?',
      words: `Someone added this address to the waiting list of “${name}”. If it was you, confirm. If not, close this page, and you will get nothing.`,
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
