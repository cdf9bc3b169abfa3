/** Signing out. */
import { handle, sessionOf } from '#server/http'

export default handle({}, async ({ event }) => {
  await (await sessionOf(event)).clear()
  return { signedIn: false }
})
