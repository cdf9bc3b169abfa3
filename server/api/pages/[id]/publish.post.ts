import { handle } from '#server/http'
import { publishPage } from '#usecases/arrive/pages'
import { pageView } from '#usecases/views/pages'

export default handle({}, async ({ house, id }) => {
  await publishPage(house, id())
  return pageView(house, id())
})
