/** Where buyers come to from the checkout, and those who wait from the page itself. */
import { defineEventHandler, getQuery } from 'h3'
import { paragraphs } from '#core/page/text'
import { renderThanks } from '#core/page/render'
import { thanksOf } from '#usecases/views/publicOffers'
import { publicFace } from '#usecases/views/publicPages'
import { FILES, houseAt, page, slugOfEvent, troublePage } from './page'

export default defineEventHandler((event) => {
  try {
    const house = houseAt(event)
    const { content, name } = thanksOf(house, slugOfEvent(event))
    const waits = { headline: 'You will hear of it', text: paragraphs(`As soon as ${name} can be bought, an email comes to you.`), onward: [] }
    return page(event, renderThanks({ thanks: getQuery(event).wait ? waits : content.thanks, look: content.look, ...publicFace(house), files: FILES }))
  }
  catch (error) {
    return troublePage(event, error)
  }
})
