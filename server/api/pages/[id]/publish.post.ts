import { handle, seenRevision } from '#server/http'
import { publishPage } from '#usecases/arrive/pages'
import { pageView } from '#usecases/views/pages'

export default handle({}, async ({ event, house, id }) => {
  await publishPage(house, id(), seenRevision(event))
  return pageView(house, id())
})
