import { handle } from '#server/http'
import { sendingHoursInput } from '#server/courseSchemas'
import { saveSendingHours, sendingHoursOf } from '#usecases/settings/hours'

export default handle({ body: sendingHoursInput }, ({ house, body }) => {
  saveSendingHours(house, body.hours)
  return sendingHoursOf(house)
})
