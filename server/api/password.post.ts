/** The first run: the owner chooses a password and is signed in. */
import { isSameSecret } from '#runtime/keys'
import { isOnlyHere } from '#runtime/settings'
import { handle } from '#server/http'
import { openWorkspaces } from '#server/workspaces'
import { newPasswordInput } from '#server/schemas'
import { signIn } from '#server/session'
import { limitTries } from '#server/tries'
import { adoptZone } from '#usecases/settings/workspace'
import { InputProblem, NotNow } from '#usecases/problem'

export default handle({ open: true, body: newPasswordInput, admit: limitTries }, async ({ event, body }) => {
  const { owner, settings } = openWorkspaces()
  const taken = new NotNow('There is a password already. Sign in with it.')
  if (owner.hasPassword()) throw taken
  if (!isOnlyHere(settings) && !isSameSecret(body.code.trim().toUpperCase(), owner.firstCode())) {
    throw new InputProblem([{ field: 'code', problem: 'This is not the code. It was printed where the application was started.' }])
  }
  if (!await owner.choosePassword(body.password)) throw taken
  // The machine may stand elsewhere; its owner's browser knows where they are.
  adoptZone(openWorkspaces().of('practice'), body.zone)
  signIn(event)
  return { signedIn: true }
})
