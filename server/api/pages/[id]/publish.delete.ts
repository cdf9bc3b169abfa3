import { handle } from '#server/http'
import { takePageDown } from '#usecases/arrive/pages'
import { pageView } from '#usecases/views/pages'

export default handle({}, ({ context, id }) => {
  takePageDown(context, id())
  return pageView(context, id())
})
