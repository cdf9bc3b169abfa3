import { handle } from '#server/http'
import { personInput } from '#server/peopleSchemas'
import { correctPerson } from '#usecases/know/byHand'
import { subscriberView } from '#usecases/views/subscriber'

export default handle({ body: personInput }, ({ house, id, body }) => {
  correctPerson(house, id(), body)
  return subscriberView(house, id())
})
