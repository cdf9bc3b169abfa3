/** A card of practice is given to the payment stand-in. */
import { defineEventHandler, sendRedirect } from 'h3'
import { PRACTICE_CARDS, type PracticeCard } from '#runtime/payments'
import { openWorkspaces } from '#server/workspaces'
import { payForm } from '#server/offerSchemas'
import { formOf, sentForm, troublePage } from './page'
import { orderAt, payPage } from './payPage'

export default defineEventHandler(async (event) => {
  try {
    const { given } = orderAt(event)
    const { card } = formOf(payForm, await sentForm(event))
    if (!Object.hasOwn(PRACTICE_CARDS, card)) return payPage(event, 'Choose one of the cards.', 422)
    switch (await openWorkspaces().standin.pay(given.order, card as PracticeCard)) {
      case 'paid': return sendRedirect(event, given.doneUrl, 303)
      case 'refused': return payPage(event, 'The card was refused. Nothing was paid; choose another card, or go back.', 402)
      case 'too-late': return payPage(event, 'The time to pay has run out. Go back and try again.', 409)
    }
  }
  catch (error) {
    return troublePage(event, error)
  }
})
