import { handle, seenRevision } from '#server/http'
import { publishPage } from '#usecases/arrive/pages'
import { pageView } from '#usecases/views/pages'

export default handle({}, async ({ event, context, id }) => {
  await publishPage(context, id(), seenRevision(event))
  return pageView(context, id())
})
