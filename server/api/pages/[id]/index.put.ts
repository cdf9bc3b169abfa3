import { handle, seenRevision } from '#server/http'
import { pageInput } from '#server/pageSchemas'
import { savePage } from '#usecases/arrive/pages'
import { pageView } from '#usecases/views/pages'

export default handle({ body: pageInput }, ({ event, context, id, body }) => {
  savePage(context, id(), body, seenRevision(event))
  return pageView(context, id())
})
