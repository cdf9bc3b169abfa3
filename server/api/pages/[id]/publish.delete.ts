import { handle } from '#server/http'
import { takePageDown } from '#usecases/arrive/pages'
import { pageView } from '#usecases/views/pages'

export default handle({}, ({ house, id }) => {
  takePageDown(house, id())
  return pageView(house, id())
})
