/** The public page of an offer. */
import { defineEventHandler, getHeader, getQuery } from 'h3'
import { touchOf } from '#core/page/touch'
import { hostOf } from '#server/visitor'
import { visitOffer } from '#server/visits'
import { publishedOfferAt } from '#usecases/views/publicOffers'
import { maySeeCode, offerPage, TOO_MANY_CODES } from './offerPage'
import { contextAt, isVisit, slugOfEvent, troublePage } from './page'

export default defineEventHandler(async (event) => {
  try {
    const context = contextAt(event)
    const offer = publishedOfferAt(context, slugOfEvent(event))
    const query = getQuery(event)
    const touch = touchOf(query, getHeader(event, 'referer'), hostOf(event))
    if (isVisit(event, context)) visitOffer(context, offer.id, touch)
    const code = typeof query.code === 'string' ? query.code.slice(0, 60) : ''
    if (!await maySeeCode(event, code)) {
      return offerPage(event, context, offer, { touch, code: '', problems: { code: TOO_MANY_CODES } }, 429)
    }
    return offerPage(event, context, offer, { touch, code })
  }
  catch (error) {
    return troublePage(event, error)
  }
})
