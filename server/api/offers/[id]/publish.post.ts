import { handle, seenRevision } from '#server/http'
import { publishOffer } from '#usecases/offers/save'
import { offerView } from '#usecases/views/offers'

export default handle({}, async ({ event, house, id }) => {
  await publishOffer(house, id(), seenRevision(event))
  return offerView(house, id())
})
