/** What people read while their yes is awaited. */
import { defineEventHandler } from 'h3'
import { renderWait } from '#core/page/render'
import { publicFace, publishedPage } from '#usecases/views/publicPages'
import { FILES, contextAt, page, slugOfEvent, troublePage } from './page'

export default defineEventHandler((event) => {
  try {
    const context = contextAt(event)
    const { confirming, theme } = publishedPage(context, slugOfEvent(event)).content
    return page(
      event, renderWait({ theme, headline: confirming.waitHeadline, text: confirming.waitText, ...publicFace(context), files: FILES }),
    )
  }
  catch (error) {
    return troublePage(event, error)
  }
})
