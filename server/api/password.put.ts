/** Another password: every session ends, and this browser begins a new one. */
import { handle } from '#server/http'
import { originOfVisitor } from '#server/visitor'
import { openWorkspaces } from '#server/workspaces'
import { otherPasswordInput } from '#server/schemas'
import { sessionsView, signIn, signOutEverywhere } from '#server/session'
import { limitTries } from '#server/tries'
import { InputProblem, NotNow } from '#usecases/problem'

export default handle({ body: otherPasswordInput, admit: limitTries }, async ({ event, body }) => {
  const { owner, signIns } = openWorkspaces()
  if (owner.isFromEnvironment) throw new NotNow('PORCH_PASSWORD decides the password. Change it there, and start the application again.')
  if (!(await owner.isPassword(body.current))) throw new InputProblem([{
    field: 'current', problem: 'This is not the password you have now.',
  }])
  await owner.changePassword(body.password)
  await signIns.forget(originOfVisitor(event))
  signOutEverywhere(event)
  signIn(event)
  return sessionsView(event)
})
