/** The public page of an offer. */
import { defineEventHandler, getHeader, getQuery } from 'h3'
import { touchOf } from '#core/page/touch'
import { hostOf } from '#server/visitor'
import { visitOffer } from '#server/visits'
import { publishedOfferAt } from '#usecases/views/publicOffers'
import { offerPage } from './offerPage'
import { houseAt, isVisit, slugOfEvent, troublePage } from './page'

export default defineEventHandler((event) => {
  try {
    const house = houseAt(event)
    const offer = publishedOfferAt(house, slugOfEvent(event))
    const query = getQuery(event)
    const touch = touchOf(query, getHeader(event, 'referer'), hostOf(event))
    if (isVisit(event, house)) visitOffer(house, offer.id, touch)
    return offerPage(event, house, offer, { touch, code: typeof query.code === 'string' ? query.code.slice(0, 60) : '' })
  }
  catch (error) {
    return troublePage(event, error)
  }
})
