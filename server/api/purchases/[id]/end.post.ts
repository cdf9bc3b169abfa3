import { handle } from '#server/http'
import { endPurchase } from '#usecases/offers/end'

export default handle({}, async ({ house, id }) => ({ counted: await endPurchase(house, id()) }))
