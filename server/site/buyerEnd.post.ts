/** A buyer ends what is paid again and again. */
import { defineEventHandler, getRouterParam, sendRedirect } from 'h3'
import { buyerEnds } from '#usecases/offers/buyer'
import { contextAt, pathAt, tokenOf, troublePage } from './page'

export default defineEventHandler(async (event) => {
  try {
    const token = tokenOf(event)
    await buyerEnds(contextAt(event), token, Number(getRouterParam(event, 'purchase')))
    return sendRedirect(event, pathAt(event, `/b/${token}?ended=1`), 303)
  }
  catch (error) {
    return troublePage(event, error)
  }
})
