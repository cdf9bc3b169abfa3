/** Where buyers come to from the checkout, and those who wait from the page itself. */
import { defineEventHandler, getQuery } from 'h3'
import { ASKED, thanksForWaiting } from '#core/offers/render'
import { renderThanks } from '#core/page/render'
import { thanksOf } from '#usecases/views/publicOffers'
import { publicFace } from '#usecases/views/publicPages'
import { FILES, contextAt, page, slugOfEvent, troublePage } from './page'

export default defineEventHandler((event) => {
  try {
    const context = contextAt(event)
    const { content, name } = thanksOf(context, slugOfEvent(event))
    const { thanks, waiting } = content
    const shown = !getQuery(event).wait ? thanks : waiting?.asks ? ASKED : thanksForWaiting(name, content)
    return page(event, renderThanks({ thanks: shown, theme: content.theme, ...publicFace(context), files: FILES }))
  }
  catch (error) {
    return troublePage(event, error)
  }
})
