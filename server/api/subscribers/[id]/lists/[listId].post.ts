import { handle } from '#server/http'
import { joinListByHand } from '#usecases/know/byHand'
import { subscriberView } from '#usecases/views/subscriber'

export default handle({}, ({ house, id }) => {
  joinListByHand(house, id(), id('listId'))
  return subscriberView(house, id())
})
