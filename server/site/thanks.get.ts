/** What people read after the button. */
import { defineEventHandler, getQuery } from 'h3'
import { renderThanks } from '#core/page/render'
import { endingOf } from '#core/page/cameTo'
import { publicFace, publishedPage } from '#usecases/views/publicPages'
import { FILES, contextAt, page, slugOfEvent, troublePage } from './page'

export default defineEventHandler((event) => {
  try {
    const context = contextAt(event)
    const { content } = publishedPage(context, slugOfEvent(event))
    const { thanks } = endingOf(content, { known: false, resultId: String(getQuery(event).result ?? '') })
    return page(event, renderThanks({ thanks, theme: content.theme, ...publicFace(context), files: FILES }))
  }
  catch (error) {
    return troublePage(event, error)
  }
})
