/** The public opt-in page. */
import { defineEventHandler } from 'h3'
import { renderOptIn } from '#core/page/render'
import { publicFace, publishedPage } from '#usecases/views/publicPages'
import { FILES, houseAt, page, slugOfEvent, pathAt, troublePage } from './page'

export default defineEventHandler((event) => {
  try {
    const house = houseAt(event)
    const { slug, content } = publishedPage(house, slugOfEvent(event))
    return page(event, renderOptIn({ content, ...publicFace(house), files: FILES, action: pathAt(event, `/p/${slug}`) }))
  }
  catch (error) {
    return troublePage(event, error)
  }
})
