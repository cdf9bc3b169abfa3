import { handle } from '#server/http'
import { takeTagByHand } from '#usecases/know/byHand'
import { subscriberView } from '#usecases/views/subscriber'

export default handle({}, ({ house, id }) => {
  takeTagByHand(house, id(), id('tagId'))
  return subscriberView(house, id())
})
