import { handle } from '#server/http'
import { sendingInput } from '#server/schemas'
import { saveSendingSettings, sendingSettingsOf } from '#usecases/settings/sending'

export default handle({ body: sendingInput }, ({ house, body }) => {
  saveSendingSettings(house, body)
  return sendingSettingsOf(house)
})
