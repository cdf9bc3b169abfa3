import { handle } from '#server/http'
import { openHouses } from '#server/houses'
import { smtpInput } from '#server/schemas'

export default handle({ body: smtpInput }, ({ body }) => {
  openHouses().goLive(body.smtpUrl)
  return { hasLive: true }
})
