/** The payment stand-in asks for a card. */
import { defineEventHandler, sendRedirect } from 'h3'
import { troublePage } from './page'
import { orderAt, payPage } from './payPage'

export default defineEventHandler((event) => {
  try {
    const { payments, given } = orderAt(event)
    return payments > 0 ? sendRedirect(event, given.doneUrl, 303) : payPage(event)
  }
  catch (error) {
    return troublePage(event, error)
  }
})
