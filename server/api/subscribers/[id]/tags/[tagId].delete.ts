import { handle } from '#server/http'
import { takeTagByHand } from '#usecases/know/byHand'
import { subscriberView } from '#usecases/views/subscriber'

export default handle({}, ({ context, id }) => {
  takeTagByHand(context, id(), id('tagId'))
  return subscriberView(context, id())
})
