import { handle } from '#server/http'
import { mergeInput } from '#server/peopleSchemas'
import { mergePeople } from '#usecases/know/sameness'
import { subscriberView } from '#usecases/views/subscriber'

export default handle({ body: mergeInput }, ({ context, id, body }) => {
  mergePeople(context, id(), body.otherId, body.address)
  return subscriberView(context, id())
})
