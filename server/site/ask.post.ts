/** The second press, or taking it back. */
import { defineEventHandler, sendRedirect } from 'h3'
import { askForm } from '#server/schemas'
import { NotThere } from '#usecases/problem'
import { askedFirst, confirmClick, takeBackFollowed } from '#usecases/reading/click'
import { readAskToken } from './ask.get'
import { formOf, contextAt, pathAt, sentForm, tokenOf, troublePage } from './page'

export default defineEventHandler(async (event) => {
  try {
    const context = contextAt(event)
    const [outboxId, linkN] = readAskToken(context, tokenOf(event))
    const form = formOf(askForm, await sentForm(event))
    if (form.do === 'yes') confirmClick(context, outboxId, linkN)
    else {
      const { personId, done } = askedFirst(context, outboxId, linkN)
      if (!done) throw new NotThere('There is nothing left to take back.')
      takeBackFollowed(context, personId, done.eventId)
    }
    return sendRedirect(event, `${pathAt(event, `/k/${tokenOf(event)}`)}?done=${form.do === 'yes' ? 'yes' : 'undone'}`, 303)
  }
  catch (error) {
    return troublePage(event, error)
  }
})
