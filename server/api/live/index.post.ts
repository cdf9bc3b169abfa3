import { handle } from '#server/http'
import { openWorkspaces } from '#server/workspaces'
import { askIfInside } from '#server/inside'
import { smtpInput } from '#server/schemas'

export default handle({ body: smtpInput }, async ({ body }) => {
  await askIfInside('smtpUrl', body.smtpUrl, { kept: null, meant: body.insideMeant })
  openWorkspaces().goLive(body.smtpUrl)
  return { hasLive: true }
})
