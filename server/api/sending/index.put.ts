import { handle } from '#server/http'
import { sendingInput } from '#server/schemas'
import { saveSendingSettings, sendingSettingsOf } from '#usecases/settings/sending'

export default handle({ body: sendingInput }, ({ context, body }) => {
  saveSendingSettings(context, body)
  return sendingSettingsOf(context)
})
