import { handle } from '#server/http'
import { giveTagByHand } from '#usecases/know/byHand'
import { subscriberView } from '#usecases/views/subscriber'

export default handle({}, ({ context, id }) => {
  giveTagByHand(context, id(), id('tagId'))
  return subscriberView(context, id())
})
