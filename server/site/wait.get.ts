/** What people read while their yes is awaited. */
import { defineEventHandler } from 'h3'
import { renderWait } from '#core/page/render'
import { publicFace, publishedPage } from '#usecases/views/publicPages'
import { FILES, houseAt, page, slugOfEvent, troublePage } from './page'

export default defineEventHandler((event) => {
  try {
    const house = houseAt(event)
    const { confirming, look } = publishedPage(house, slugOfEvent(event)).content
    return page(event, renderWait({ look, headline: confirming.waitHeadline, text: confirming.waitText, ...publicFace(house), files: FILES }))
  }
  catch (error) {
    return troublePage(event, error)
  }
})
