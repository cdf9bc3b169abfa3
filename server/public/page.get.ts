/** The public opt-in page. */
import { defineEventHandler, getHeader, getQuery } from 'h3'
import { touchOf } from '#core/page/touch'
import { publishedPage } from '#usecases/views/publicPages'
import { hostOf } from '#server/http'
import { visit } from '#server/visits'
import { houseAt, isVisit, optInPage, slugOfEvent, troublePage } from './page'

export default defineEventHandler((event) => {
  try {
    const house = houseAt(event)
    const published = publishedPage(house, slugOfEvent(event))
    const touch = touchOf(getQuery(event), getHeader(event, 'referer'), hostOf(event))
    if (isVisit(event, house)) visit(house, published.id, touch)
    return optInPage(event, house, published, { touch })
  }
  catch (error) {
    return troublePage(event, error)
  }
})
