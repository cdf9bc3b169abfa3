import { handle } from '#server/http'
import { settingsInput } from '#server/schemas'
import { shownSettings, smtpUrlOf } from '#server/smtpUrl'
import { saveSettings } from '#usecases/settings/workspace'

export default handle({ body: settingsInput }, ({ house, body }) => {
  saveSettings(house, { ...body, smtpUrl: smtpUrlOf(house, body.smtpUrl) })
  return shownSettings(house)
})
