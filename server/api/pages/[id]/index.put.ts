import { handle, seenRevision } from '#server/http'
import { pageInput } from '#server/pageSchemas'
import { savePage } from '#usecases/arrive/pages'
import { pageView } from '#usecases/views/pages'

export default handle({ body: pageInput }, ({ event, house, id, body }) => {
  savePage(house, id(), body, seenRevision(event))
  return pageView(house, id())
})
