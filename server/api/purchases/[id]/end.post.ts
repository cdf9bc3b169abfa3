import { handle } from '#server/http'
import { endPurchase } from '#usecases/offers/end'

export default handle({}, async ({ house, id }) => {
  await endPurchase(house, id())
  return {}
})
