import { handle } from '#server/http'
import { openWorkspaces } from '#server/workspaces'
import { askIfInside } from '#server/inside'
import { sellingInput } from '#server/offerSchemas'
import { webhookSecretProblem } from '#runtime/payments'
import { saveSelling, sellingView } from '#usecases/settings/selling'

export default handle({ body: sellingInput }, async ({ context, body: { insideMeant, ...body } }) => {
  await askIfInside('paymentsUrl', body.paymentsUrl, { kept: sellingView(context, '').paymentsUrl, meant: insideMeant })
  saveSelling(context, body, webhookSecretProblem)
  return sellingView(context, openWorkspaces().ownPaymentsSecret(context))
})
