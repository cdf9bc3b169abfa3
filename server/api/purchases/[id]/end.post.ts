import { handle } from '#server/http'
import { endPurchase } from '#usecases/offers/end'

export default handle({}, async ({ context, id }) => ({ counted: await endPurchase(context, id()) }))
