import { handle, seenRevision } from '#server/http'
import { offerInput } from '#server/offerSchemas'
import { saveOffer } from '#usecases/offers/save'
import { offerView } from '#usecases/views/offers'

export default handle({ body: offerInput }, ({ event, context, id, body }) => {
  saveOffer(context, id(), body, seenRevision(event))
  return offerView(context, id())
})
