/** The button of the confirmation page is pressed. */
import { defineEventHandler, sendRedirect } from 'h3'
import { endingOf } from '#core/page/cameTo'
import { askAnew, confirmationView, confirm, readConfirmToken } from '#usecases/arrive/confirm'
import { confirmForm } from '#server/schemas'
import { formOf, contextAt, pathAt, sentForm, tokenOf, troublePage } from './page'

export default defineEventHandler(async (event) => {
  try {
    const context = contextAt(event)
    const id = readConfirmToken(context, tokenOf(event))
    const { answer } = formOf(confirmForm, await sentForm(event))
    if (answer === 'again') {
      askAnew(context, id)
      return sendRedirect(event, pathAt(event, `/p/${confirmationView(context, id).slug}/wait`), 303)
    }
    const outcome = confirm(context, id)
    const { page, cameTo } = confirmationView(context, id)
    const { redirectUrl } = endingOf(page.content, cameTo)
    if (outcome === 'counts' && redirectUrl !== null) return sendRedirect(event, redirectUrl, 303)
    return sendRedirect(event, `${pathAt(event, `/c/${tokenOf(event)}`)}${outcome === 'counts' ? '?done=1' : ''}`, 303)
  }
  catch (error) {
    return troublePage(event, error)
  }
})
