/** The first run: the owner chooses a password and is signed in. */
import { handle, sessionOf } from '#server/http'
import { openHouses } from '#server/houses'
import { newPasswordInput } from '#server/schemas'
import { adoptZone } from '#usecases/settings/workspace'
import { NotNow } from '#usecases/problem'

export default handle({ open: true, body: newPasswordInput }, async ({ event, body }) => {
  const { owner } = openHouses()
  if (owner.hasPassword()) throw new NotNow('There is a password already. Sign in with it.')
  await owner.choosePassword(body.password)
  // The machine may stand elsewhere; its owner's browser knows where they are.
  adoptZone(openHouses().of('practice'), body.zone)
  await (await sessionOf(event)).update({ signedIn: true })
  return { signedIn: true }
})
