/** Signing out: the session ends here, whatever a copy of its cookie says. */
import { handle } from '#server/http'
import { signOut } from '#server/session'

export default handle({}, ({ event }) => {
  signOut(event)
  return { signedIn: false }
})
