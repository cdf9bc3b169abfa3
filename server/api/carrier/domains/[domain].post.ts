import { handle } from '#server/http'
import { resumeDomainSending } from '#usecases/sending/waves'
import { shownSettings } from '#server/smtpUrl'

export default handle({}, ({ house, param }) => {
  resumeDomainSending(house, param('domain'))
  return shownSettings(house)
})
