import { handle } from '#server/http'
import { mergeInput } from '#server/peopleSchemas'
import { mergePeople } from '#usecases/know/sameness'
import { subscriberView } from '#usecases/views/subscriber'

export default handle({ body: mergeInput }, ({ house, id, body }) => {
  mergePeople(house, id(), body.otherId, body.address)
  return subscriberView(house, id())
})
