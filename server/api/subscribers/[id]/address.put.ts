import { handle } from '#server/http'
import { addressInput } from '#server/peopleSchemas'
import { changeAddress } from '#usecases/know/sameness'
import { subscriberView } from '#usecases/views/subscriber'

export default handle({ body: addressInput }, ({ context, id, body }) => {
  changeAddress(context, id(), body.address)
  return subscriberView(context, id())
})
