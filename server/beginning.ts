/** What the first screen would have to ask for, in the page itself. */
import type { H3Event } from 'h3'
import { BEGINNING, type Beginning, type Mode } from '#core/views/frame'
import { clockView } from '#usecases/views/frame'
import { isSignedIn } from './session'
import { openWorkspaces } from './workspaces'

/** Nothing that runs, so the content security policy allows it. Strangers are told of no workspace. */
export function beginningOf(event: H3Event): string {
  const workspaces = openWorkspaces()
  const modes: Mode[] = workspaces.hasLive ? ['practice', 'live'] : ['practice']
  const signedIn = isSignedIn(event)
  const beginning: Beginning = {
    signedIn, clocks: signedIn ? Object.fromEntries(modes.map(mode => [mode, clockView(workspaces.of(mode))])) : {},
  }
  return `<script type="application/json" id="${BEGINNING}">${JSON.stringify(beginning).replaceAll('<', '\\u003c')}</script>`
}
