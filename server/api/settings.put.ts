import { handle } from '#server/http'
import { askIfInside } from '#server/inside'
import { settingsInput } from '#server/schemas'
import { shownSettings, smtpUrlOf } from '#server/smtpUrl'
import { saveSettings } from '#usecases/settings/workspace'
import { settingsView } from '#usecases/views/settings'

export default handle({ body: settingsInput }, async ({ context, body: { insideMeant, ...body } }) => {
  const smtpUrl = smtpUrlOf(context, body.smtpUrl)
  await askIfInside('smtpUrl', smtpUrl, { kept: settingsView(context).smtpUrl, meant: insideMeant })
  saveSettings(context, { ...body, smtpUrl })
  return shownSettings(context)
})
