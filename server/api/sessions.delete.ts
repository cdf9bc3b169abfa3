/** Signing out everywhere, here too. */
import { handle } from '#server/http'
import { signOutEverywhere } from '#server/session'

export default handle({}, ({ event }) => {
  signOutEverywhere(event)
  return { signedIn: false }
})
