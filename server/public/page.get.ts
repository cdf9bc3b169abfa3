/** The public opt-in page. */
import type { H3Event } from 'h3'
import { defineEventHandler, getHeader, getQuery } from 'h3'
import { touchOf } from '#core/page/touch'
import type { House } from '#usecases/house'
import { publishedPage } from '#usecases/views/publicPages'
import { hostOf } from '#server/http'
import { visit } from '#server/visits'
import { houseAt, optInPage, slugOfEvent, troublePage, visitOf } from './page'

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

/** Somebody looks: not a robot, not for the headers alone, and not fetched ahead of a press that may never come. */
function isVisit(event: H3Event, house: House): boolean {
  return event.method === 'GET' && !visitOf(event, house).robot && !/\bprefetch\b/.test(`${getHeader(event, 'sec-purpose') ?? ''} ${getHeader(event, 'purpose') ?? ''}`)
}
