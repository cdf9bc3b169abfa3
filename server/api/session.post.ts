/** Signing in. */
import { handle, sessionOf, visitorIp } from '#server/http'
import { Refused } from '#server/refused'
import { openHouses } from '#server/houses'
import { passwordInput } from '#server/schemas'
import { InputProblem } from '#usecases/problem'

export default handle({ open: true, body: passwordInput }, async ({ event, body }) => {
  const { owner, signIns } = openHouses()
  const ip = visitorIp(event)
  if (!signIns.allows(ip)) throw new Refused(429, 'Too many tries. Wait ten minutes, then try again.')
  if (!owner.hasPassword() || !(await owner.isPassword(body.password))) {
    throw new InputProblem([{ field: 'password', problem: 'This is not the password.' }])
  }
  signIns.forget(ip)
  await (await sessionOf(event)).update({ signedIn: true })
  return { signedIn: true }
})
