/** What people read after the button. */
import { defineEventHandler, getQuery } from 'h3'
import { renderThanks } from '#core/page/render'
import { endingOf } from '#core/page/thanks'
import { publicFace, publishedPage } from '#usecases/views/publicPages'
import { FILES, houseAt, page, slugOfEvent, troublePage } from './page'

export default defineEventHandler((event) => {
  try {
    const house = houseAt(event)
    const { content } = publishedPage(house, slugOfEvent(event))
    const { thanks } = endingOf(content, { known: false, resultId: String(getQuery(event).result ?? '') })
    return page(event, renderThanks({ thanks, look: content.look, ...publicFace(house), files: FILES }))
  }
  catch (error) {
    return troublePage(event, error)
  }
})
