import { handle } from '#server/http'
import { openHouses } from '#server/houses'
import { shownSettings } from '#server/smtpUrl'

export default handle({}, ({ house }) => {
  const houses = openHouses()
  return { ...shownSettings(house), smtpFromEnvironment: houses.settings.smtpUrl !== null, baseUrl: house.baseUrl, hasLive: houses.hasLive }
})
