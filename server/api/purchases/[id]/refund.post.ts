import { handle } from '#server/http'
import { giveBackInput } from '#server/offerSchemas'
import { giveBack } from '#usecases/offers/end'

export default handle({ body: giveBackInput }, async ({ context, id, body }) => ({ counted: await giveBack(context, { purchaseId: id(), ...body }) }))
