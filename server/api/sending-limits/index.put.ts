import { handle } from '#server/http'
import { sendingLimitsInput } from '#server/courseSchemas'
import { saveSendingLimits, sendingLimitsOf } from '#usecases/settings/limits'

export default handle({ body: sendingLimitsInput }, ({ context, body }) => {
  saveSendingLimits(context, body)
  return sendingLimitsOf(context)
})
