/** Yes, they want to hear when it can be bought. */
import { defineEventHandler, sendRedirect } from 'h3'
import { confirmForm } from '#server/schemas'
import { confirmWaiting, readWaitToken } from '#usecases/offers/wait'
import { formOf, contextAt, pathAt, sentForm, tokenOf, troublePage } from './page'

export default defineEventHandler(async (event) => {
  try {
    const context = contextAt(event)
    const id = readWaitToken(context, tokenOf(event))
    const { answer } = formOf(confirmForm, await sentForm(event))
    const done = answer === 'yes' && confirmWaiting(context, id) === 'counts'
    return sendRedirect(event, `${pathAt(event, `/w/${tokenOf(event)}`)}${done ? '?done=1' : ''}`, 303)
  }
  catch (error) {
    return troublePage(event, error)
  }
})
