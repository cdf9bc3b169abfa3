import { handle } from '#server/http'
import { openHouses } from '#server/houses'
import { askIfInside } from '#server/inside'
import { smtpInput } from '#server/schemas'

export default handle({ body: smtpInput }, async ({ body }) => {
  await askIfInside('smtpUrl', body.smtpUrl, { kept: null, meant: body.insideMeant })
  openHouses().goLive(body.smtpUrl)
  return { hasLive: true }
})
