import { handle } from '#server/http'
import { joinListByHand } from '#usecases/know/byHand'
import { subscriberView } from '#usecases/views/subscriber'

export default handle({}, ({ context, id }) => {
  joinListByHand(context, id(), id('listId'))
  return subscriberView(context, id())
})
