import { handle } from '#server/http'
import { pageInput } from '#server/pageSchemas'
import { savePage } from '#usecases/arrive/pages'
import { pageView } from '#usecases/views/pages'

export default handle({ body: pageInput }, ({ house, id, body }) => {
  savePage(house, id(), body)
  return pageView(house, id())
})
