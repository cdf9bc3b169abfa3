import { handle } from '#server/http'
import { sendingHoursInput } from '#server/courseSchemas'
import { saveSendingHours, sendingHoursOf } from '#usecases/settings/hours'

export default handle({ body: sendingHoursInput }, ({ context, body }) => {
  saveSendingHours(context, body.hours)
  return sendingHoursOf(context)
})
