/** What people read after the button. */
import { defineEventHandler, getQuery } from 'h3'
import { renderThanks } from '#core/page/render'
import { publicFace, publishedPage } from '#usecases/views/publicPages'
import { FILES, houseAt, page, slugOfEvent, troublePage } from './page'

export default defineEventHandler((event) => {
  try {
    const house = houseAt(event)
    const { thanks, forKnown, look } = publishedPage(house, slugOfEvent(event)).content
    const known = getQuery(event).known === '1' ? forKnown : null
    return page(event, renderThanks({ thanks: known?.thanks ?? thanks, look, ...publicFace(house), files: FILES }))
  }
  catch (error) {
    return troublePage(event, error)
  }
})
