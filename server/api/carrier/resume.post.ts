import { handle } from '#server/http'
import { resumeSending } from '#usecases/settings/workspace'
import { shownSettings } from '#server/smtpUrl'

export default handle({}, ({ house }) => {
  resumeSending(house)
  return shownSettings(house)
})
