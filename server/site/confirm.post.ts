/** The button of the confirmation page is pressed. */
import { defineEventHandler, sendRedirect } from 'h3'
import { endingOf } from '#core/page/thanks'
import { askAnew, askingView, confirm, readConfirmToken } from '#usecases/arrive/confirm'
import { confirmForm } from '#server/schemas'
import { formOf, houseAt, pathAt, sentForm, tokenOf, troublePage } from './page'

export default defineEventHandler(async (event) => {
  try {
    const house = houseAt(event)
    const id = readConfirmToken(house, tokenOf(event))
    const { answer } = formOf(confirmForm, await sentForm(event))
    if (answer === 'again') {
      askAnew(house, id)
      return sendRedirect(event, pathAt(event, `/p/${askingView(house, id).slug}/wait`), 303)
    }
    const outcome = confirm(house, id)
    const { page, cameTo } = askingView(house, id)
    const { redirectUrl } = endingOf(page.content, cameTo)
    if (outcome === 'counts' && redirectUrl !== null) return sendRedirect(event, redirectUrl, 303)
    return sendRedirect(event, `${pathAt(event, `/c/${tokenOf(event)}`)}${outcome === 'counts' ? '?done=1' : ''}`, 303)
  }
  catch (error) {
    return troublePage(event, error)
  }
})
