/** Broadcasts. */
import { setResponseHeader } from 'h3'
import type { PortableBroadcast } from '#core/exchange/broadcast'
import { slugOf } from '#core/message/headers'
import type { BroadcastFile, BroadcastsOperations } from '#core/operations/broadcasts'
import { copyFetcherOf } from '#runtime/copies'
import {
  bringBroadcast, broadcastEml, broadcastHtml, codeOfCopyUrl, copyOfCode, exportBroadcast, setCopyLink,
} from '#usecases/broadcasts/exchange'
import {
  createBroadcast, duplicateBroadcast, putBackBroadcast, removeBroadcast, saveBroadcast,
} from '#usecases/broadcasts/save'
import {
  pauseBroadcast, resumeBroadcast, scheduleBroadcast, stopBroadcast, takeBackBroadcast,
} from '#usecases/broadcasts/schedule'
import { broadcastView } from '#usecases/views/broadcasts'
import type { WorkspaceContext } from '#usecases/context'
import { SPLITS, type Split } from '#core/views/broadcastResults'
import { InputProblem, NotThere } from '#usecases/problem'
import { shareBroadcast } from '#usecases/reading/sharedEmails'
import { clickMap } from '#usecases/views/clickMap'
import { emailFrame } from '../emailFrame'
import { AGAIN_ACTS, actOnAgain, sendAgain } from '#usecases/broadcasts/again'
import { MOST_BROADCAST_BYTES } from '../broadcastFile'
import {
  againInput, againReachInput, bringLinkInput, broadcastInput, copyLinkInput, fileQuery, newBroadcastInput, sharedInput, whoQuery,
} from '../broadcastSchemas'
import { handle, seenRevision, type Operations } from '../http'
import { readBroadcast } from '../files/index'
import { inReader } from '../reader/index'
import { openWorkspaces } from '../workspaces'

const doing = (work: (context: WorkspaceContext, id: number) => void) => handle({}, ({ context, id }) => {
  work(context, id())
  return broadcastView(context, id())
})

const FILES: Record<BroadcastFile, { type: string, make(context: WorkspaceContext, id: number): unknown }> = {
  json: { type: 'application/json', make: (context, id) => `${JSON.stringify(exportBroadcast(context, id), null, 2)}\n` },
  html: { type: 'text/html; charset=utf-8', make: broadcastHtml },
  eml: { type: 'message/rfc822', make: async (context, id) => Buffer.from(await broadcastEml(context, id)) },
}

/** Our own are read where they lie; others are asked for where they are offered. */
async function copyAt(context: WorkspaceContext, typed: string): Promise<PortableBroadcast> {
  const url = typed.trim()
  const wrong = (problem: string) => new InputProblem([{ field: 'url', problem }])
  for (const mode of ['practice', 'live'] as const) {
    if (mode === 'live' && !openWorkspaces().hasLive) continue
    const own = openWorkspaces().of(mode)
    const code = codeOfCopyUrl(own, url)
    if (code !== null) return copyOfCode(own, code)
  }
  if (!/^https?:$/.test(URL.parse(url)?.protocol ?? '')) throw wrong('Paste the whole link. It begins with https://')
  const fetched = await copyFetcherOf(context, MOST_BROADCAST_BYTES).fetch(url)
  if (!fetched.ok) throw wrong(`The copy cannot be read: ${fetched.problem}.`)
  return readBroadcast(fetched.bytes)
}

export const broadcasts: Operations<BroadcastsOperations> = {
  'GET /broadcasts': handle({}, ({ event, context }) => inReader(event, context.mode, 'broadcasts')),
  'POST /broadcasts': handle({ body: newBroadcastInput }, ({ context, body }) => ({
    id: body.from === null ? createBroadcast(context, null, body.who ?? null) : duplicateBroadcast(context, body.from),
  })),
  'POST /broadcasts/bring': handle({ upload: MOST_BROADCAST_BYTES }, async ({ context, bytes }) =>
    bringBroadcast(context, await readBroadcast(bytes))),
  'POST /broadcasts/bring-link': handle({ body: bringLinkInput }, async ({ context, body }) =>
    bringBroadcast(context, await copyAt(context, body.url))),
  'GET /broadcasts/:id/export': handle({ query: fileQuery }, async ({ event, context, id, query }) => {
    const { name } = broadcastView(context, id())
    const { type, make } = FILES[query.as]
    setResponseHeader(event, 'content-type', type)
    setResponseHeader(event, 'content-disposition', `attachment; filename="${slugOf(name)}.${query.as}"`)
    return make(context, id())
  }),
  'PUT /broadcasts/:id/copy-link': handle({ body: copyLinkInput }, ({ context, id, body }) => {
    setCopyLink(context, id(), body.on)
    return broadcastView(context, id())
  }),
  'GET /broadcasts/:id': handle({}, ({ context, id }) => broadcastView(context, id())),
  'PUT /broadcasts/:id': handle({ body: broadcastInput }, ({ event, context, id, body }) => {
    saveBroadcast(context, id(), body, seenRevision(event))
    return broadcastView(context, id())
  }),
  'DELETE /broadcasts/:id': handle({}, ({ context, id }) => removeBroadcast(context, id())),
  'POST /broadcasts/:id/back': handle({}, ({ context, id }) => putBackBroadcast(context, id())),
  'POST /broadcasts/:id/reach': handle({ body: broadcastInput }, ({ event, context, id, body }) =>
    inReader(event, context.mode, 'broadcastReach', { id: id(), draft: body })),
  'GET /broadcasts/:id/results': handle({}, ({ event, context, id }) => inReader(event, context.mode, 'broadcastResults', id())),
  'GET /broadcasts/:id/split/:by': handle({}, ({ event, context, id, param }) => {
    const by = SPLITS.find(one => one === param('by'))
    if (!by) throw new NotThere('There is nothing at this address.')
    return inReader(event, context.mode, 'broadcastSplit', { id: id(), by })
  }),
  'GET /broadcasts/:id/who': handle({ query: whoQuery }, ({ event, context, id, query: { key, by, part, from } }) =>
    inReader(event, context.mode, 'broadcastWho', { id: id(), from, key, within: by === '' ? null : { by: by as Split, part } })),
  'GET /broadcasts/:id/click-map': handle({}, ({ event, context, id }) => emailFrame(event, context, clickMap(context, id()))),
  'POST /broadcasts/:id/again': handle({ body: againInput }, async ({ context, id, body }) => {
    await sendAgain(context, id(), body)
    return broadcastView(context, id())
  }),
  'POST /broadcasts/:id/again/reach': handle({ body: againReachInput }, ({ event, context, id, body }) =>
    inReader(event, context.mode, 'againReach', { id: id(), spec: body })),
  'POST /broadcasts/:id/again/:sendId/:act': handle({}, ({ context, id, param }) => {
    const act = AGAIN_ACTS.find(one => one === param('act'))
    if (!act) throw new NotThere('There is nothing at this address.')
    actOnAgain(context, id(), id('sendId'), act)
    return broadcastView(context, id())
  }),
  'PUT /broadcasts/:id/shared': handle({ body: sharedInput }, ({ context, id, body }) => {
    shareBroadcast(context, id(), body.shared)
    return broadcastView(context, id())
  }),
  'POST /broadcasts/:id/schedule': handle({}, async ({ event, context, id }) => {
    await scheduleBroadcast(context, id(), seenRevision(event))
    return broadcastView(context, id())
  }),
  'DELETE /broadcasts/:id/schedule': doing(takeBackBroadcast),
  'POST /broadcasts/:id/pause': doing(pauseBroadcast),
  'POST /broadcasts/:id/resume': doing(resumeBroadcast),
  'POST /broadcasts/:id/stop': doing(stopBroadcast),
}
