/** What people read after the button. */
import { defineEventHandler } from 'h3'
import { renderThanks } from '#core/page/render'
import { publicFace, publishedPage } from '#usecases/views/publicPages'
import { FILES, houseAt, page, slugOfEvent, troublePage } from './page'

export default defineEventHandler((event) => {
  try {
    const house = houseAt(event)
    const { content } = publishedPage(house, slugOfEvent(event))
    return page(event, renderThanks({ headline: content.thanksHeadline, text: content.thanksText, ...publicFace(house), files: FILES }))
  }
  catch (error) {
    return troublePage(event, error)
  }
})
