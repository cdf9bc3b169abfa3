/** Who is signed in: a cookie that says nothing, and what is kept about it here. */
import type { H3Event } from 'h3'
import { deleteCookie, getCookie, setCookie } from 'h3'
import { systemClock } from '#runtime/open'
import { isThisMachine } from '#runtime/settings'
import type { SessionsView } from '#core/views/settings'
import { beginSession, endAllSessions, endSession, isSession, LONGEST_MS, sessionLines } from '#usecases/settings/sessions'
import { hostOf } from './visitor'
import { openWorkspaces } from './workspaces'

const NAME = 'porch'
/** In practice, which is always there. */
const db = () => openWorkspaces().of('practice').db
const credential = () => openWorkspaces().owner.credential(openWorkspaces().keys.session)
const tokenOf = (event: H3Event) => (getCookie(event, NAME) ?? '').slice(0, 100)

/** Over plain http only on this very machine. */
const cookie = (event: H3Event) => ({
  httpOnly: true, sameSite: 'lax' as const, secure: !isThisMachine(hostOf(event).replace(/:\d+$/, '')), path: '/',
})

export function isSignedIn(event: H3Event): boolean {
  const current = credential()
  const token = tokenOf(event)
  return current !== null && token !== '' && isSession(db(), token, current, systemClock.now())
}

/** After the password was given. */
export function signIn(event: H3Event): void {
  const token = beginSession(db(), credential()!, systemClock.now())
  setCookie(event, NAME, token, { ...cookie(event), maxAge: LONGEST_MS / 1000 })
}

export function signOut(event: H3Event): void {
  endSession(db(), tokenOf(event))
  deleteCookie(event, NAME, cookie(event))
}

/** Every browser, this one too. */
export function signOutEverywhere(event: H3Event): void {
  endAllSessions(db())
  deleteCookie(event, NAME, cookie(event))
}

export function sessionsView(event: H3Event): SessionsView {
  return {
    passwordFromEnvironment: openWorkspaces().owner.isFromEnvironment,
    sessions: sessionLines(db(), tokenOf(event), credential() ?? '', systemClock.now()),
  }
}
