/** Who is there, whether a password has been chosen yet, and whether choosing one takes a code. */
import { isOnlyHere } from '#runtime/settings'
import { handle } from '#server/http'
import { openWorkspaces } from '#server/workspaces'
import { isSignedIn } from '#server/session'

export default handle({ open: true }, ({ event }) => {
  const { owner, settings, hasLive } = openWorkspaces()
  const hasPassword = owner.hasPassword()
  return { signedIn: isSignedIn(event), hasPassword, wantsCode: !hasPassword && !isOnlyHere(settings), hasLive }
})
