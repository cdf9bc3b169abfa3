import { handle } from '#server/http'
import { giveTagByHand } from '#usecases/know/byHand'
import { subscriberView } from '#usecases/views/subscriber'

export default handle({}, ({ house, id }) => {
  giveTagByHand(house, id(), id('tagId'))
  return subscriberView(house, id())
})
