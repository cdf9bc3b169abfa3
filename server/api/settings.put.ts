import { handle } from '#server/http'
import { settingsInput } from '#server/schemas'
import { smtpUrlProblem } from '#runtime/settings'
import { saveSettings } from '#usecases/settings/workspace'
import { settingsView } from '#usecases/views/settings'

export default handle({ body: settingsInput }, ({ house, body }) => {
  saveSettings(house, body, smtpUrlProblem)
  return settingsView(house)
})
