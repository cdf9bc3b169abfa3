/** Another answer, or none. */
import { defineEventHandler, sendRedirect } from 'h3'
import { answerForm } from '#server/schemas'
import { chooseAgain } from '#usecases/reading/choose'
import { readAnswerToken } from './answer.get'
import { formOf, contextAt, pathAt, sentForm, tokenOf, troublePage } from './page'

export default defineEventHandler(async (event) => {
  try {
    const context = contextAt(event)
    const [outboxId, linkN] = readAnswerToken(context, tokenOf(event))
    const { choose } = formOf(answerForm, await sentForm(event))
    chooseAgain(context, outboxId, linkN, choose === 'none' ? null : Number(choose))
    return sendRedirect(event, pathAt(event, `/q/${tokenOf(event)}`), 303)
  }
  catch (error) {
    return troublePage(event, error)
  }
})
