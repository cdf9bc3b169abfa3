/** Who is there, and whether a password has been chosen yet. */
import { handle, isSignedIn } from '#server/http'
import { openHouses } from '#server/houses'

export default handle({ open: true }, async ({ event }) => {
  const houses = openHouses()
  return { signedIn: await isSignedIn(event), hasPassword: houses.owner.hasPassword(), hasLive: houses.hasLive }
})
