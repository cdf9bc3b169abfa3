/** What must be in order before going live, without doing it. */
import { handle } from '#server/http'
import { openWorkspaces } from '#server/workspaces'
import { smtpInput } from '#server/schemas'

export default handle({ body: smtpInput }, ({ body }) => openWorkspaces().checks(body.smtpUrl))
