/** Coming in, the frame around every screen, the settings, and what is asked of any thing. */
import { setResponseStatus } from 'h3'
import { isSameSecret } from '#runtime/keys'
import { systemClock } from '#runtime/open'
import { isOnlyHere } from '#runtime/settings'
import { VERSION } from '#runtime/version'
import type { HouseOperations } from '#core/operations/house'
import { thingOf, weeklyKind } from '../asThing'
import { handle, type Operations } from '../http'
import { askIfInside } from '../inside'
import { consentRuleInput } from '../peopleSchemas'
import { inReader } from '../reader/index'
import { keyInput } from '../ruleSchemas'
import {
  acrossInput, clockMove, findQuery, newPasswordInput, oddAddressInput, otherPasswordInput, passwordInput, replaceInput, settingsInput,
  setupInput, smtpInput,
} from '../schemas'
import { isSignedIn, sessionsView, signIn, signOut, signOutEverywhere } from '../session'
import { shownSettings, smtpUrlOf } from '../smtpUrl'
import { streamText } from '../streamText'
import { limitTries } from '../tries'
import { originOfVisitor } from '../visitor'
import { openWorkspaces } from '../workspaces'
import { keysView, makeKey, removeKey } from '#usecases/api/keys'
import { archiveThing, bringBack } from '#usecases/know/archive'
import { copyAcross } from '#usecases/know/copyAcross'
import { copyThing } from '#usecases/know/copyThing'
import { replaceThing } from '#usecases/know/replaceThing'
import { showSetup } from '#usecases/settings/firstSteps'
import { InputProblem, NotNow } from '#usecases/problem'
import { adoptZone, oddAddressRuleOf, saveConsentRule, saveOddAddressRule, saveSettings } from '#usecases/settings/workspace'
import { moveClock } from '#usecases/time/moveClock'
import { consentView } from '#usecases/views/consent'
import { exportWorkspace } from '#usecases/views/exportWorkspace'
import { clockView } from '#usecases/views/frame'
import { healthView } from '#usecases/views/health'
import { settingsView } from '#usecases/views/settings'

export const house: Operations<HouseOperations> = {
  /** Who is there, whether a password has been chosen yet, and whether choosing one takes a code. */
  'GET /session': handle({ open: true }, ({ event }) => {
    const { owner, settings, hasLive } = openWorkspaces()
    const hasPassword = owner.hasPassword()
    return { signedIn: isSignedIn(event), hasPassword, wantsCode: !hasPassword && !isOnlyHere(settings), hasLive }
  }),
  /** Signing in. */
  'POST /session': handle({ open: true, body: passwordInput, admit: limitTries }, async ({ event, body }) => {
    const { owner, signIns } = openWorkspaces()
    if (!owner.hasPassword() || !(await owner.isPassword(body.password))) {
      throw new InputProblem([{ field: 'password', problem: 'This password is wrong.' }])
    }
    await signIns.forget(originOfVisitor(event))
    signIn(event)
    return { signedIn: true }
  }),
  /** Signing out: the session ends here, whatever a copy of its cookie says. */
  'DELETE /session': handle({}, ({ event }) => {
    signOut(event)
    return { signedIn: false }
  }),
  'GET /sessions': handle({}, ({ event }) => sessionsView(event)),
  /** Signing out everywhere, here too. */
  'DELETE /sessions': handle({}, ({ event }) => {
    signOutEverywhere(event)
    return { signedIn: false }
  }),
  /** The first run: the owner chooses a password and is signed in. */
  'POST /password': handle({ open: true, body: newPasswordInput, admit: limitTries }, async ({ event, body }) => {
    const { owner, settings } = openWorkspaces()
    const taken = new NotNow('A password is already set. Sign in with it.')
    if (owner.hasPassword()) throw taken
    if (!isOnlyHere(settings) && !isSameSecret(body.code.trim().toUpperCase(), owner.firstCode())) {
      throw new InputProblem([{ field: 'code', problem: 'This code is wrong. It was printed where the application was started.' }])
    }
    if (!await owner.choosePassword(body.password)) throw taken
    // The machine may stand elsewhere; its owner's browser knows where they are.
    adoptZone(openWorkspaces().of('practice'), body.zone)
    signIn(event)
    return { signedIn: true }
  }),
  /** Another password: every session ends, and this browser begins a new one. */
  'PUT /password': handle({ body: otherPasswordInput, admit: limitTries }, async ({ event, body }) => {
    const { owner, signIns } = openWorkspaces()
    if (owner.isFromEnvironment) throw new NotNow('PORCH_PASSWORD decides the password. Change it there, and start the application again.')
    if (!(await owner.isPassword(body.current))) throw new InputProblem([{
      field: 'current', problem: 'This is not your current password.',
    }])
    await owner.changePassword(body.password)
    await signIns.forget(originOfVisitor(event))
    signOutEverywhere(event)
    signIn(event)
    return sessionsView(event)
  }),
  /** Whether web, engine and database are well, and which versions run. Open to all: it says nothing about anybody. */
  'GET /health': handle({ open: true }, ({ event }) => {
    const workspaces = openWorkspaces()
    const health = healthView(workspaces.of('practice'), workspaces.hasLive ? workspaces.of('live') : null, systemClock.now(), VERSION)
    if (!health.well) setResponseStatus(event, 503)
    return health
  }),
  'GET /workspace/export': handle({}, ({ event, context }) =>
    streamText(event, exportWorkspace(context), { type: 'application/json', fileName: `workspace-${context.mode}.json` })),
  'GET /frame': handle(
    {}, async ({ event, context }) => ({ ...await inReader(event, context.mode, 'frame'), hasLive: openWorkspaces().hasLive }),
  ),
  'GET /rail': handle({}, ({ event, context }) => inReader(event, context.mode, 'rail')),
  'GET /today': handle({}, ({ event, context }) => inReader(event, context.mode, 'today', openWorkspaces().hasLive)),
  'GET /weeks/:kind': handle({}, ({ event, context, param }) => inReader(event, context.mode, 'weeks', weeklyKind(param('kind')))),
  'GET /find': handle({ query: findQuery }, ({ event, context, query }) => inReader(event, context.mode, 'find', query.text)),
  'PUT /setup': handle({ body: setupInput }, ({ context, body }) => showSetup(context, body.hidden)),
  /** Where a workspace's clock stands: asked before the first screen, since none can be drawn without. */
  'GET /clock': handle({}, ({ context }) => clockView(context)),
  'POST /clock': handle({ body: clockMove }, ({ context, body }) => ({ movingTo: moveClock(context, body) })),
  'POST /live': handle({ body: smtpInput }, async ({ body }) => {
    await askIfInside('smtpUrl', body.smtpUrl, { kept: null, meant: body.insideMeant })
    openWorkspaces().goLive(body.smtpUrl)
    return { hasLive: true }
  }),
  /** What must be in order before going live, without doing it. */
  'POST /live/checks': handle({ body: smtpInput }, ({ body }) => openWorkspaces().checks(body.smtpUrl)),
  'GET /settings': handle({}, ({ context }) => shownSettings(context)),
  'PUT /settings': handle({ body: settingsInput }, async ({ context, body: { insideMeant, ...body } }) => {
    const smtpUrl = smtpUrlOf(context, body.smtpUrl)
    await askIfInside('smtpUrl', smtpUrl, { kept: settingsView(context).smtpUrl, meant: insideMeant })
    saveSettings(context, { ...body, smtpUrl })
    return shownSettings(context)
  }),
  'GET /consent': handle({}, ({ context }) => consentView(context)),
  'PUT /consent': handle({ body: consentRuleInput }, ({ context, body }) => {
    saveConsentRule(context, body)
    return consentView(context)
  }),
  'GET /odd-addresses': handle({}, ({ context }) => oddAddressRuleOf(context)),
  'PUT /odd-addresses': handle({ body: oddAddressInput }, ({ context, body }) => {
    saveOddAddressRule(context, body)
    return oddAddressRuleOf(context)
  }),
  'GET /keys': handle({}, ({ context }) => keysView(context)),
  'POST /keys': handle({ body: keyInput }, ({ context, body }) => makeKey(context, body, systemClock.now())),
  'DELETE /keys/:id': handle({}, ({ context, id }) => removeKey(context, id(), systemClock.now())),
  'GET /uses/:kind/:id': handle({}, asked => inReader(asked.event, asked.context.mode, 'ending', thingOf(asked))),
  'POST /uses/:kind/:id/replace': handle({ body: replaceInput }, (asked) => {
    const { kind, id } = thingOf(asked)
    return replaceThing(asked.context, kind, id, asked.body.into)
  }),
  'POST /across/:kind/:id': handle({ body: acrossInput }, (asked) => {
    const other = openWorkspaces().of(asked.context.mode === 'live' ? 'practice' : 'live')
    return copyAcross(asked.context, other, thingOf(asked), asked.body.replace)
  }),
  'POST /copies/:kind/:id': handle({}, async asked => ({ id: await copyThing(asked.context, thingOf(asked)) })),
  'PUT /archived/:kind/:id': handle({}, asked => archiveThing(asked.context, thingOf(asked))),
  'DELETE /archived/:kind/:id': handle({}, asked => bringBack(asked.context, thingOf(asked))),
}
