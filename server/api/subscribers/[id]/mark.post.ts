import { handle } from '#server/http'
import { markInput } from '#server/schemas'
import { markUnreachable } from '#usecases/know/byHand'
import { subscriberView } from '#usecases/views/subscriber'

export default handle({ body: markInput }, ({ context, body, id }) => {
  markUnreachable(context, id(), body.as, body.reason)
  return subscriberView(context, id())
})
