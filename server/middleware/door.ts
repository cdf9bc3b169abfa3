/** Before anything else is looked at: a request that names us, in an address that can be read. */
import { defineEventHandler, getRequestHost } from 'h3'
import { isOurHost } from '#runtime/settings'
import { openWorkspaces } from '../workspaces'
import { refuse } from '../noScreen'
import { hostOf } from '../visitor'

export default defineEventHandler((event) => {
  const { settings } = openWorkspaces()
  // The name it was sent to, and the name that the proxy says it was sent to.
  if (![getRequestHost(event), hostOf(event)].every(host => isOurHost(settings, host))) {
    return refuse(event, 421, 'This is not the address of this application. If it should be, set PORCH_BASE_URL to it.')
  }
  try {
    decodeURIComponent(event.path.split('?')[0]!)
  }
  catch {
    return refuse(event, 400, 'This address cannot be read. It contains a stray percent sign.')
  }
})
