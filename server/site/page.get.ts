/** The public opt-in page. */
import { defineEventHandler, getHeader, getQuery } from 'h3'
import { touchOf } from '#core/page/touch'
import { passedBy, passedOnTouch } from '#usecases/arrive/passOn'
import { publishedPage } from '#usecases/views/publicPages'
import { hostOf } from '#server/visitor'
import { visit } from '#server/visits'
import { houseAt, isVisit, optInPage, slugOfEvent, troublePage } from './page'

export default defineEventHandler((event) => {
  try {
    const house = houseAt(event)
    const published = publishedPage(house, slugOfEvent(event))
    const by = String(getQuery(event).by ?? '')
    const told = touchOf(getQuery(event), getHeader(event, 'referer'), hostOf(event))
    const passed = passedBy(house, by) !== null
    const touch = passed ? passedOnTouch(told) : told
    if (isVisit(event, house)) visit(house, published.id, touch)
    return optInPage(event, house, published, { touch, ...passed && { by } })
  }
  catch (error) {
    return troublePage(event, error)
  }
})
