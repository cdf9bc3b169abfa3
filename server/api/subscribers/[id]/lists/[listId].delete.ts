import { handle } from '#server/http'
import { leaveListByHand } from '#usecases/know/byHand'
import { subscriberView } from '#usecases/views/subscriber'

export default handle({}, ({ context, id }) => {
  leaveListByHand(context, id(), id('listId'))
  return subscriberView(context, id())
})
