import { handle } from '#server/http'
import { resumeDomainSending } from '#usecases/sending/waves'
import { settingsView } from '#usecases/views/settings'

export default handle({}, ({ house, param }) => {
  resumeDomainSending(house, param('domain'))
  return settingsView(house)
})
