import { handle } from '#server/http'
import { askIfInside } from '#server/inside'
import { settingsInput } from '#server/schemas'
import { shownSettings, smtpUrlOf } from '#server/smtpUrl'
import { saveSettings } from '#usecases/settings/workspace'
import { settingsView } from '#usecases/views/settings'

export default handle({ body: settingsInput }, async ({ house, body: { insideMeant, ...body } }) => {
  const smtpUrl = smtpUrlOf(house, body.smtpUrl)
  await askIfInside('smtpUrl', smtpUrl, { kept: settingsView(house).smtpUrl, meant: insideMeant })
  saveSettings(house, { ...body, smtpUrl })
  return shownSettings(house)
})
