/** One receipt of a buyer's, to be printed or kept. */
import { defineEventHandler, getRouterParam } from 'h3'
import { renderReceipt } from '#core/offers/render'
import { buyersReceipt } from '#usecases/offers/buyer'
import { publicFace } from '#usecases/views/publicPages'
import { FILES, contextAt, page, pathAt, tokenOf, troublePage } from './page'

export default defineEventHandler((event) => {
  try {
    const context = contextAt(event)
    const token = tokenOf(event)
    const receipt = buyersReceipt(context, token, Number(getRouterParam(event, 'payment')))
    return page(event, renderReceipt({ ...publicFace(context), files: FILES, receipt, back: pathAt(event, `/b/${token}`) }))
  }
  catch (error) {
    return troublePage(event, error)
  }
})
