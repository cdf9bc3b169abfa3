import { handle } from '#server/http'
import { personInput } from '#server/peopleSchemas'
import { correctPerson } from '#usecases/know/byHand'
import { subscriberView } from '#usecases/views/subscriber'

export default handle({ body: personInput }, ({ context, id, body }) => {
  correctPerson(context, id(), body)
  return subscriberView(context, id())
})
