/** Broadcasts. */
import type { BroadcastsOperations } from '#core/operations/broadcasts'
import {
  createBroadcast, duplicateBroadcast, putBackBroadcast, removeBroadcast, saveBroadcast,
} from '#usecases/broadcasts/save'
import {
  pauseBroadcast, resumeBroadcast, scheduleBroadcast, stopBroadcast, takeBackBroadcast,
} from '#usecases/broadcasts/schedule'
import { broadcastView } from '#usecases/views/broadcasts'
import type { WorkspaceContext } from '#usecases/context'
import { SPLITS } from '#core/views/broadcastResults'
import { NotThere } from '#usecases/problem'
import { shareBroadcast } from '#usecases/reading/sharedEmails'
import { clickMap } from '#usecases/views/clickMap'
import { emailFrame } from '../emailFrame'
import { AGAIN_ACTS, actOnAgain, sendAgain } from '#usecases/broadcasts/again'
import { againInput, againReachInput, broadcastInput, newBroadcastInput, sharedInput, whoQuery } from '../broadcastSchemas'
import { handle, seenRevision, type Operations } from '../http'
import { inReader } from '../reader/index'

const doing = (work: (context: WorkspaceContext, id: number) => void) => handle({}, ({ context, id }) => {
  work(context, id())
  return broadcastView(context, id())
})

export const broadcasts: Operations<BroadcastsOperations> = {
  'GET /broadcasts': handle({}, ({ event, context }) => inReader(event, context.mode, 'broadcasts')),
  'POST /broadcasts': handle({ body: newBroadcastInput }, ({ context, body }) => ({
    id: body.from === null ? createBroadcast(context, null, body.who ?? null) : duplicateBroadcast(context, body.from),
  })),
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
  'GET /broadcasts/:id/who': handle({ query: whoQuery }, ({ event, context, id, query }) =>
    inReader(event, context.mode, 'broadcastWho', { id: id(), ...query })),
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
