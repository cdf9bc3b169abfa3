/** Where the button leads that asks at a new address whether it is theirs. Looking changes nothing. */
import { defineEventHandler } from 'h3'
import { newTheme } from '#core/page/theme'
import { hideMiddle, renderConfirm } from '#core/page/render'
import { addressOutcome, readAddressToken, type AddressOutcome } from '#usecases/arrive/choices'
import { publicFace } from '#usecases/views/publicPages'
import { FILES, contextAt, page, pathAt, tokenOf, troublePage } from './page'

const SAYS: Record<AddressOutcome, { headline: string, words: string }> = {
  'can-be': {
    headline: 'Shall your mail come here?',
    words: 'Say yes, and from now on everything you get from us comes to this address, and to the old one nothing more.',
  },
  'done': { headline: 'Your mail comes here now', words: 'Everything goes on as it was, at this address.' },
  'too-late': {
    headline: 'This was too late',
    words: 'The button in that email worked for seven days. Ask once more on the page that every email of ours leads to.',
  },
  'taken': {
    headline: 'This address gets our mail already',
    words: 'Somebody is written down with it, perhaps you. Nothing was changed: leave at one of the two addresses, and keep the other.',
  },
  'gone': { headline: 'There is nothing to change', words: 'What was written down for you no longer exists.' },
}

export default defineEventHandler((event) => {
  try {
    const context = contextAt(event)
    const { outcome, address } = addressOutcome(context, readAddressToken(context, tokenOf(event)))
    return page(event, renderConfirm({
      ...publicFace(context), files: FILES, theme: newTheme(), action: pathAt(event, `/a/${tokenOf(event)}`), address: hideMiddle(address),
      offers: outcome === 'can-be' ? 'yes' : null, ...SAYS[outcome],
    }))
  }
  catch (error) {
    return troublePage(event, error)
  }
})
