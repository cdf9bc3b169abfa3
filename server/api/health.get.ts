/** Whether web, engine and database are well, and which versions run. Open to all: it says nothing about anybody. */
import { defineEventHandler, setResponseStatus } from 'h3'
import { openWorkspaces } from '#server/workspaces'
import { healthView } from '#usecases/views/health'
import { systemClock } from '#runtime/open'
import { VERSION } from '#runtime/version'

export default defineEventHandler((event) => {
  const workspaces = openWorkspaces()
  const health = healthView(workspaces.of('practice'), workspaces.hasLive ? workspaces.of('live') : null, systemClock.now(), VERSION)
  if (!health.well) setResponseStatus(event, 503)
  return health
})
