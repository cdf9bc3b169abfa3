import { handle } from '#server/http'
import { openHouses } from '#server/houses'
import { askIfInside } from '#server/inside'
import { sellingInput } from '#server/offerSchemas'
import { webhookSecretProblem } from '#runtime/payments'
import { saveSelling, sellingView } from '#usecases/settings/selling'

export default handle({ body: sellingInput }, async ({ house, body: { insideMeant, ...body } }) => {
  await askIfInside('paymentsUrl', body.paymentsUrl, { kept: sellingView(house, '').paymentsUrl, meant: insideMeant })
  saveSelling(house, body, webhookSecretProblem)
  return sellingView(house, openHouses().ownPaymentsSecret(house))
})
