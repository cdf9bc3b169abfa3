import { handle } from '#server/http'
import { newOfferInput } from '#server/offerSchemas'
import { createOffer } from '#usecases/offers/save'

export default handle({ body: newOfferInput }, ({ house, body }) => ({ id: createOffer(house, body.name, body.from) }))
