import { handle } from '#server/http'
import { newOfferInput } from '#server/offerSchemas'
import { createOffer } from '#usecases/offers/save'

export default handle({ body: newOfferInput }, ({ context, body }) => ({ id: createOffer(context, body.name, body.from) }))
