import { handle } from '#server/http'
import { markInput } from '#server/schemas'
import { markUnreachable } from '#usecases/know/byHand'
import { subscriberView } from '#usecases/views/subscriber'

export default handle({ body: markInput }, ({ house, body, id }) => {
  markUnreachable(house, id(), body.as, body.reason)
  return subscriberView(house, id())
})
