/** The public opt-in page. */
import { defineEventHandler, getHeader, getQuery } from 'h3'
import { touchOf } from '#core/page/touch'
import { passedBy, passedOnTouch } from '#usecases/arrive/passOn'
import { publishedPage } from '#usecases/views/publicPages'
import { hostOf } from '#server/visitor'
import { visit } from '#server/visits'
import { contextAt, isVisit, optInPage, slugOfEvent, troublePage } from './page'

export default defineEventHandler((event) => {
  try {
    const context = contextAt(event)
    const published = publishedPage(context, slugOfEvent(event))
    const by = String(getQuery(event).by ?? '')
    const told = touchOf(getQuery(event), getHeader(event, 'referer'), hostOf(event))
    const passed = passedBy(context, by) !== null
    const touch = passed ? passedOnTouch(told) : told
    if (isVisit(event, context)) visit(context, published.id, touch)
    return optInPage(event, context, published, { touch, ...passed && { by } })
  }
  catch (error) {
    return troublePage(event, error)
  }
})
