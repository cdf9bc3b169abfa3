import { handle } from '#server/http'
import { openHouses } from '#server/houses'
import { sellingInput } from '#server/offerSchemas'
import { webhookSecretProblem } from '#runtime/payments'
import { saveSelling, sellingView } from '#usecases/settings/selling'

export default handle({ body: sellingInput }, ({ house, body }) => {
  saveSelling(house, body, webhookSecretProblem)
  return sellingView(house, openHouses().ownPaymentsSecret(house))
})
