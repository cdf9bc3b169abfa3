/** A buyer's own page. */
import { defineEventHandler, getQuery } from 'h3'
import { renderBuyer } from '#core/offers/render'
import { buyerView } from '#usecases/offers/buyer'
import { publicFace } from '#usecases/views/publicPages'
import { FILES, contextAt, page, pathAt, tokenOf, troublePage } from './page'

export default defineEventHandler((event) => {
  try {
    const context = contextAt(event)
    const token = tokenOf(event)
    const view = buyerView(context, token, pathAt(event, `/b/${token}`))
    return page(event, renderBuyer({
      ...publicFace(context), files: FILES, ...view, ...getQuery(event).ended && { note: 'Cancelled. No further payments are taken.' },
    }))
  }
  catch (error) {
    return troublePage(event, error)
  }
})
