/** Broadcasts. */
import type { BroadcastDraft } from '#core/broadcast/draft'
import type { BroadcastLine, BroadcastReach, BroadcastView } from '#core/views/broadcast'
import type { Nothing } from './operation'

export interface BroadcastsOperations {
  'GET /broadcasts': { answer: BroadcastLine[] }
  /** `from`: one that it begins as. */
  'POST /broadcasts': { body: { from: number | null }, answer: { id: number } }
  'GET /broadcasts/:id': { answer: BroadcastView }
  'PUT /broadcasts/:id': { body: BroadcastDraft, answer: BroadcastView }
  'DELETE /broadcasts/:id': { answer: Nothing }
  /** Undoes the deletion. */
  'POST /broadcasts/:id/back': { answer: Nothing }
  /** Whom it would reach as it is written there. */
  'POST /broadcasts/:id/reach': { body: BroadcastDraft, answer: BroadcastReach }
  'POST /broadcasts/:id/schedule': { answer: BroadcastView }
  'DELETE /broadcasts/:id/schedule': { answer: BroadcastView }
  'POST /broadcasts/:id/pause': { answer: BroadcastView }
  'POST /broadcasts/:id/resume': { answer: BroadcastView }
  'POST /broadcasts/:id/stop': { answer: BroadcastView }
}
