import { handle } from '#server/http'
import { leaveListByHand } from '#usecases/know/byHand'
import { subscriberView } from '#usecases/views/subscriber'

export default handle({}, ({ house, id }) => {
  leaveListByHand(house, id(), id('listId'))
  return subscriberView(house, id())
})
