/** Where the button leads that asks at a new address whether it is theirs. Looking changes nothing. */
import { defineEventHandler } from 'h3'
import { ourTheme } from '#core/page/theme'
import { hideMiddle, renderConfirm } from '#core/page/render'
import { addressOutcome, readAddressToken, type AddressOutcome } from '#usecases/arrive/choices'
import { publicFace } from '#usecases/views/publicPages'
import { FILES, contextAt, page, pathAt, tokenOf, troublePage } from './page'

const SAYS: Record<AddressOutcome, { headline: string, words: string }> = {
  'can-be': {
    headline: 'Should your emails come here?',
    words: 'If you confirm, everything you get from us comes to this address from now on, and nothing to the old one.',
  },
  'done': { headline: 'Your emails come here now', words: 'Everything else stays the same.' },
  'too-late': {
    headline: 'This link has expired',
    words: 'The button in that email worked for seven days. You can ask again on your choices page.',
  },
  'taken': {
    headline: 'This address already gets our emails',
    words: 'Someone is subscribed with it, perhaps you. Nothing was changed. Unsubscribe at one of the two addresses, and keep the other.',
  },
  'gone': { headline: 'There is nothing to change', words: 'Your record no longer exists.' },
}

export default defineEventHandler((event) => {
  try {
    const context = contextAt(event)
    const { outcome, address } = addressOutcome(context, readAddressToken(context, tokenOf(event)))
    return page(event, renderConfirm({
      ...publicFace(context), files: FILES, theme: ourTheme(), action: pathAt(event, `/a/${tokenOf(event)}`), address: hideMiddle(address),
      offers: outcome === 'can-be' ? 'yes' : null, ...SAYS[outcome],
    }))
  }
  catch (error) {
    return troublePage(event, error)
  }
})
