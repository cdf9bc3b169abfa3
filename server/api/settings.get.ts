import { handle } from '#server/http'
import { settingsView } from '#usecases/views/settings'
import { openHouses } from '#server/houses'

export default handle({}, ({ house }) => {
  const houses = openHouses()
  return { ...settingsView(house), smtpFromEnvironment: houses.settings.smtpUrl !== null, baseUrl: house.baseUrl, hasLive: houses.hasLive }
})
