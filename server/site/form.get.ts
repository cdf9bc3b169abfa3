/** The form of a page for the script that puts it into another site. */
import { defineEventHandler, getHeader, getQuery, setResponseHeader, setResponseStatus } from 'h3'
import { touchOf } from '#core/page/touch'
import { hostOf } from '#server/visitor'
import { visit } from '#server/visits'
import { NotThere } from '#usecases/problem'
import { publishedPage } from '#usecases/views/publicPages'
import { embedded, forAnySite, contextAt, isVisit, slugOfEvent } from './page'

export default defineEventHandler((event) => {
  forAnySite(event)
  setResponseHeader(event, 'cache-control', 'no-store')
  try {
    const context = contextAt(event)
    const published = publishedPage(context, slugOfEvent(event))
    const touch = touchOf(getQuery(event), getHeader(event, 'referer'), hostOf(event))
    if (isVisit(event, context)) visit(context, published.id, touch)
    return embedded(context, published, { touch })
  }
  catch (error) {
    if (!(error instanceof NotThere)) throw error
    setResponseStatus(event, 404)
    return { problem: error.message }
  }
})
