/** Broadcasts. */
import type { Condition } from '#core/audience/condition'
import type { AgainSpec } from '#core/broadcast/again'
import type { BroadcastDraft } from '#core/broadcast/draft'
import type { BroadcastWhen } from '#core/broadcast/when'
import type { AgainReach, BroadcastLine, BroadcastReach, BroadcastView, BroughtBroadcast } from '#core/views/broadcast'
import type { BroadcastResults, PeopleOfNumber, SplitRow } from '#core/views/broadcastResults'
import type { Download, Nothing } from './operation'

export type AgainAsked = AgainSpec & { when: BroadcastWhen }

/** JSON for another workspace, HTML as nobody in particular reads it, and a whole email for a mail program. */
export const BROADCAST_FILES = ['json', 'html', 'eml'] as const
export type BroadcastFile = typeof BROADCAST_FILES[number]

export interface BroadcastsOperations {
  'GET /broadcasts': { answer: BroadcastLine[] }
  /** `from`: one that it begins as. */
  /** `who`: whom it begins with. */
  'POST /broadcasts': { body: { from: number | null, who?: Condition | null }, answer: { id: number } }
  /** A draft, of a file that was exported from another workspace. */
  'POST /broadcasts/bring': { file: true, answer: BroughtBroadcast }
  /** The same by a link that offers a copy. */
  'POST /broadcasts/bring-link': { body: { url: string }, answer: BroughtBroadcast }
  'GET /broadcasts/:id/export': { query: { as: BroadcastFile }, answer: Download }
  /** Whether whoever has its link can take a copy. */
  'PUT /broadcasts/:id/copy-link': { body: { on: boolean }, answer: BroadcastView }
  'GET /broadcasts/:id': { answer: BroadcastView }
  'PUT /broadcasts/:id': { body: BroadcastDraft, answer: BroadcastView }
  'DELETE /broadcasts/:id': { answer: Nothing }
  /** Undoes the deletion. */
  'POST /broadcasts/:id/back': { answer: Nothing }
  /** Whom it would reach as it is written there. */
  'POST /broadcasts/:id/reach': { body: BroadcastDraft, answer: BroadcastReach }
  'GET /broadcasts/:id/results': { answer: BroadcastResults }
  'GET /broadcasts/:id/split/:by': { answer: SplitRow[] }
  /** The people behind one of its numbers. */
  /** `by` and `part`: of one of its parts; both empty for all. */
  'GET /broadcasts/:id/who': { query: { key: string, by: string, part: string, from: number }, answer: PeopleOfNumber }
  /** The email as it was sent, with how often each of its links was followed. */
  'GET /broadcasts/:id/click-map': { answer: Download }
  'POST /broadcasts/:id/again': { body: AgainAsked, answer: BroadcastView }
  /** Whom a second sending would reach now. */
  'POST /broadcasts/:id/again/reach': { body: Omit<AgainSpec, 'subject'>, answer: AgainReach }
  'POST /broadcasts/:id/again/:sendId/:act': { answer: BroadcastView }
  /** On the public page, or taken from it. */
  'PUT /broadcasts/:id/shared': { body: { shared: boolean }, answer: BroadcastView }
  'POST /broadcasts/:id/schedule': { answer: BroadcastView }
  'DELETE /broadcasts/:id/schedule': { answer: BroadcastView }
  'POST /broadcasts/:id/pause': { answer: BroadcastView }
  'POST /broadcasts/:id/resume': { answer: BroadcastView }
  'POST /broadcasts/:id/stop': { answer: BroadcastView }
}
