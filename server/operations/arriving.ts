/** Opt-in pages, their pictures and files, and where people come from. */
import type { ArrivingOperations } from '#core/operations/arriving'
import { MOST_PICTURE_BYTES } from '#core/page/picture'
import { MOST_FILE_BYTES } from '#core/page/promise'
import { handle, type Operations, seenRevision } from '../http'
import { newStepId } from '../courseSchemas'
import { fileQuery, newPageInput, pageInput, pageWithCourseInput } from '../pageSchemas'
import { sourceCostsInput, sourceKey, sourcesQuery } from '../peopleSchemas'
import { inReader } from '../reader/index'
import { nameInput, resultsQuery, shownInput } from '../schemas'
import { saveSourceCosts } from '#usecases/arrive/costs'
import { bringFile } from '#usecases/arrive/files'
import { createPage, publishPage, removePage, savePage, showPageVersion, takePageDown } from '#usecases/arrive/pages'
import { makePageWithCourse } from '#usecases/arrive/pageWithCourse'
import { bringPicture } from '#usecases/arrive/pictures'
import { nameSource } from '#usecases/arrive/sources'
import { pageView } from '#usecases/views/pages'
import { sourceCosts } from '#usecases/views/sources'

export const arriving: Operations<ArrivingOperations> = {
  'GET /pages': handle({}, ({ event, context }) => inReader(event, context.mode, 'pages')),
  'POST /pages': handle({ body: newPageInput }, ({ context, body }) => ({ id: createPage(context, body.name, body.beginning) })),
  'POST /pages/with-course': handle({ body: pageWithCourseInput }, ({ context, body: { name, beginning, course, listId } }) =>
    makePageWithCourse(context, { page: { name, beginning }, course: { beginning: course, listId } }, newStepId)),
  'GET /pages/:id': handle({}, ({ context, id }) => pageView(context, id())),
  'PUT /pages/:id': handle({ body: pageInput }, ({ event, context, id, body }) => {
    savePage(context, id(), body, seenRevision(event))
    return pageView(context, id())
  }),
  'DELETE /pages/:id': handle({}, ({ context, id }) => removePage(context, id())),
  'POST /pages/:id/publish': handle({}, async ({ event, context, id }) => {
    await publishPage(context, id(), seenRevision(event))
    return pageView(context, id())
  }),
  'DELETE /pages/:id/publish': handle({}, ({ context, id }) => {
    takePageDown(context, id())
    return pageView(context, id())
  }),
  'PUT /pages/:id/shown': handle({ body: shownInput }, ({ context, id, body }) => {
    showPageVersion(context, id(), body)
    return pageView(context, id())
  }),
  'GET /pages/:id/results': handle({
    query: resultsQuery,
  }, ({ event, context, id, query }) => inReader(event, context.mode, 'pageResults', { id: id(), days: query.days })),
  'POST /pictures': handle({
    upload: MOST_PICTURE_BYTES, query: fileQuery,
  }, ({ context, bytes, query: { name } }) => bringPicture(context, name, bytes)),
  'POST /files': handle({
    upload: MOST_FILE_BYTES, query: fileQuery,
  }, ({ context, bytes, query: { name, type } }) => bringFile(context, name, type, bytes)),
  'GET /sources': handle({ query: sourcesQuery }, ({ event, context, query }) => inReader(event, context.mode, 'sources', query)),
  'POST /sources': handle({ body: nameInput }, ({ context, body }) => ({ id: nameSource(context, body.name) })),
  'GET /sources/costs': handle({ query: sourceKey }, ({ context, query }) => sourceCosts(context, query)),
  'PUT /sources/costs': handle({ body: sourceCostsInput }, ({ context, body }) => {
    saveSourceCosts(context, body)
    return sourceCosts(context, body.source)
  }),
}
