import { handle } from '#server/http'
import { resumeSending } from '#usecases/settings/workspace'
import { settingsView } from '#usecases/views/settings'

export default handle({}, ({ house }) => {
  resumeSending(house)
  return settingsView(house)
})
