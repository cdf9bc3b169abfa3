import { handle } from '#server/http'
import { resumeDomainSending } from '#usecases/sending/waves'
import { shownSettings } from '#server/smtpUrl'

export default handle({}, ({ context, param }) => {
  resumeDomainSending(context, param('domain'))
  return shownSettings(context)
})
