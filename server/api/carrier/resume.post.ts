import { handle } from '#server/http'
import { resumeSending } from '#usecases/settings/workspace'
import { shownSettings } from '#server/smtpUrl'

export default handle({}, ({ context }) => {
  resumeSending(context)
  return shownSettings(context)
})
