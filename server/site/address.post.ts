/** Yes, the new address is theirs; or a mail program's one press (RFC 8058), which says no. */
import { defineEventHandler, sendRedirect, setResponseHeader } from 'h3'
import { confirmAddress, readAddressToken, refuseAddress } from '#usecases/arrive/choices'
import { addressForm } from '#server/schemas'
import { formOf, contextAt, pathAt, sentForm, tokenOf, troublePage } from './page'

export default defineEventHandler(async (event) => {
  try {
    const context = contextAt(event)
    const id = readAddressToken(context, tokenOf(event))
    const form = formOf(addressForm, await sentForm(event))
    if (form['List-Unsubscribe'] === 'One-Click') {
      refuseAddress(context, id)
      setResponseHeader(event, 'content-type', 'text/plain; charset=utf-8')
      return 'Done.'
    }
    if (form.answer === 'yes') confirmAddress(context, id)
    return sendRedirect(event, pathAt(event, `/a/${tokenOf(event)}`), 303)
  }
  catch (error) {
    return troublePage(event, error)
  }
})
