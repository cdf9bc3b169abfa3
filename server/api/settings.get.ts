import { handle } from '#server/http'
import { openWorkspaces } from '#server/workspaces'
import { shownSettings } from '#server/smtpUrl'

export default handle({}, ({ context }) => {
  const workspaces = openWorkspaces()
  return { ...shownSettings(context), smtpFromEnvironment: workspaces.settings.smtpUrl !== null, baseUrl: context.baseUrl, hasLive: workspaces.hasLive }
})
