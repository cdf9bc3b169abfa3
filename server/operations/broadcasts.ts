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
import { broadcastInput, newBroadcastInput } from '../broadcastSchemas'
import { handle, seenRevision, type Operations } from '../http'
import { inReader } from '../reader/index'

const doing = (work: (context: WorkspaceContext, id: number) => void) => handle({}, ({ context, id }) => {
  work(context, id())
  return broadcastView(context, id())
})

export const broadcasts: Operations<BroadcastsOperations> = {
  'GET /broadcasts': handle({}, ({ event, context }) => inReader(event, context.mode, 'broadcasts')),
  'POST /broadcasts': handle({ body: newBroadcastInput }, ({ context, body }) => ({
    id: body.from === null ? createBroadcast(context) : duplicateBroadcast(context, body.from),
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
  'POST /broadcasts/:id/schedule': handle({}, async ({ event, context, id }) => {
    await scheduleBroadcast(context, id(), seenRevision(event))
    return broadcastView(context, id())
  }),
  'DELETE /broadcasts/:id/schedule': doing(takeBackBroadcast),
  'POST /broadcasts/:id/pause': doing(pauseBroadcast),
  'POST /broadcasts/:id/resume': doing(resumeBroadcast),
  'POST /broadcasts/:id/stop': doing(stopBroadcast),
}
