import { handle } from '#server/http'
import { openWorkspaces } from '#server/workspaces'
import { inReader } from '#server/reader/index'

export default handle({}, async ({ event, context }) => ({ ...await inReader(event, context.mode, 'frame'), hasLive: openWorkspaces().hasLive }))
