import { handle, seenRevision } from '#server/http'
import { publishOffer } from '#usecases/offers/save'
import { offerView } from '#usecases/views/offers'

export default handle({}, async ({ event, context, id }) => {
  await publishOffer(context, id(), seenRevision(event))
  return offerView(context, id())
})
