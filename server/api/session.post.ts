/** Signing in. */
import { handle } from '#server/http'
import { originOfVisitor } from '#server/visitor'
import { openWorkspaces } from '#server/workspaces'
import { passwordInput } from '#server/schemas'
import { signIn } from '#server/session'
import { limitTries } from '#server/tries'
import { InputProblem } from '#usecases/problem'

export default handle({ open: true, body: passwordInput, admit: limitTries }, async ({ event, body }) => {
  const { owner, signIns } = openWorkspaces()
  if (!owner.hasPassword() || !(await owner.isPassword(body.password))) {
    throw new InputProblem([{ field: 'password', problem: 'This is not the password.' }])
  }
  await signIns.forget(originOfVisitor(event))
  signIn(event)
  return { signedIn: true }
})
