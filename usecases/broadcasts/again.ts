/** Sending a broadcast a second time: planned with it, or by hand from its results. */
import { PLANNED_ITEM, secondSendingOf, whenAgain, whoGetsAgain, type AgainSpec } from '#core/broadcast/again'
import { missingForAgain, missingForSending, type BroadcastDraft } from '#core/broadcast/draft'
import { timingOf, type BroadcastWhen } from '#core/broadcast/when'
import { withSubject } from '#core/message/content'
import type { Instant } from '#core/time/zone'
import { zonesOfPeople } from '#data/broadcasts'
import type { Database } from '#data/connection'
import { appendEvent } from '#data/events'
import { deleteSecondSending, insertSecondSending, secondSendingsOf, type SecondSendingRow } from '#data/secondSendings'
import { deleteSend, findSend, findSendById, insertSend, updateSend } from '#data/sends'
import { workspaceOf } from '#data/workspace'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { keepWording, makeWordings, type Made, type Wording } from '../inner/wordings'
import { InputProblem, NotNow, NotThere } from '../problem'
import { pauseSend, resumeSend, stopSend, TAKE_BACK } from '../sending/audience'
import { theBroadcast } from './save'
import { sellsOf } from '../inner/broadcastPeople'

/** Its wording, and what was made of it. */
interface Worded { wording: Wording, made: Made }

/** The same email under its other subject. */
export const wordingAgain = (id: number, itemId: string, { content }: Pick<BroadcastDraft, 'content'>, { subject }: AgainSpec): Wording =>
  ({ of: secondSendingOf(id, itemId), content: withSubject(content, subject) })

/** In the caller's transaction: the second sending that is planned with a broadcast becomes what its draft says, or is none. */
export function planAgain(
  context: WorkspaceContext, id: number, draft: BroadcastDraft, first: { sendId: number, dueAt: Instant }, worded: Worded | null,
): void {
  const { db } = context
  const known = findSend(db, secondSendingOf(id, PLANNED_ITEM))
  if (draft.again === null || worded === null) {
    if (known) forgetPlanned(db, id)
    return
  }
  const when = whenAgain(draft.when, draft.again.afterDays, first.dueAt, workspaceOf(db).zone)
  const row = rowOf(context, id, { ...draft, when }, draft.again, { parentId: first.sendId, sentAt: first.dueAt }, worded)
  const sendId = known?.id ?? insertSend(db, { ...secondSendingOf(id, PLANNED_ITEM), ...row })
  if (known) updateSend(db, sendId, row)
  insertSecondSending(db, { sendId, broadcastId: id, spec: draft.again })
}

/** Nothing of what is planned is left; what has begun goes on. */
export function forgetPlanned(db: Database, id: number): void {
  const known = findSend(db, secondSendingOf(id, PLANNED_ITEM))
  if (known?.state !== 'scheduled') return
  deleteSecondSending(db, known.id)
  deleteSend(db, known.id)
}

function rowOf(
  context: WorkspaceContext, id: number, draft: BroadcastDraft, spec: AgainSpec,
  { parentId, sentAt }: { parentId: number, sentAt: Instant }, { wording, made }: Worded,
) {
  const { db, clock, system } = context
  const at = clock.now()
  const { dueAt, timing } = timingOf({ when: draft.when, spreadHours: draft.spreadHours }, at, workspaceOf(db).zone, zonesOfPeople(db))
  const parent = findSendById(db, parentId)!
  return {
    messageId: keepWording(context, wording, made, at), listId: draft.listId!, parentId,
    audience: {
      getsIt: whoGetsAgain(id, spec, { sells: sellsOf(context, draft).map(offer => offer.id), sentAt }), never: parent.audience!.never,
      newcomerDays: null, ...parent.audience!.ownersToo && { ownersToo: true as const },
    },
    dueAt: Math.max(at, dueAt), timing, heldUntilAt: dueAt <= at ? system.now() + TAKE_BACK : null,
  }
}

/** By hand, from its results: in a minute, or at its time. Throws an {@link InputProblem} where something is missing. */
export async function sendAgain(
  context: WorkspaceContext, id: number, { when, ...spec }: AgainSpec & { when: BroadcastWhen },
): Promise<void> {
  const { db } = context
  const { scheduled, sendId, state } = theBroadcast(db, id)
  if (scheduled === null || state === 'scheduled') throw new NotNow('This has not been sent yet.')
  const draft = { ...scheduled, when, spreadHours: 0, again: null }
  const missing = [...missingForSending(draft), ...missingForAgain(spec, scheduled.content)]
  if (missing.length > 0) throw new InputProblem(missing)
  const itemId = `hand-${secondSendingsOf(db, id).filter(one => one.itemId !== PLANNED_ITEM).length + 1}`
  const wording = wordingAgain(id, itemId, draft, spec)
  const made = await makeWordings(context, [wording])
  transact(context, () => {
    const parent = findSendById(db, sendId!)!
    const row = rowOf(context, id, draft, spec, { parentId: parent.id, sentAt: parent.dueAt! }, { wording, made })
    if (when.kind === 'at' && row.dueAt <= context.clock.now()) {
      throw new InputProblem([{ field: 'when', problem: 'This time has passed. Choose a later one, or send it now.' }])
    }
    const secondId = insertSend(db, { ...secondSendingOf(id, itemId), ...row })
    insertSecondSending(db, { sendId: secondId, broadcastId: id, spec })
    appendEvent(db, 'broadcast-scheduled', context.clock.now(), { broadcastId: id, detail: 'again' })
  })
  context.wake()
}

export const AGAIN_ACTS = ['take-back', 'pause', 'resume', 'stop'] as const
export type AgainAct = typeof AGAIN_ACTS[number]

/** Of one of its second sendings. */
export function actOnAgain(context: WorkspaceContext, id: number, sendId: number, act: AgainAct): void {
  const { db } = context
  const second = secondSendingsOf(db, id).find(one => one.sendId === sendId)
  if (!second) throw new NotThere('This second sending no longer exists.')
  const ACTS: Record<AgainAct, () => void> = {
    'take-back': () => takeBack(context, second), 'pause': () => pauseSend(context, sendId), 'resume': () => resumeSend(context, sendId),
    'stop': () => stopSend(context, sendId),
  }
  ACTS[act]()
}

function takeBack(context: WorkspaceContext, { sendId, state, broadcastId }: SecondSendingRow): void {
  if (state !== 'scheduled') throw new NotNow('This has begun to be sent. You can pause it, or stop it.')
  transact(context, () => {
    deleteSecondSending(context.db, sendId)
    deleteSend(context.db, sendId)
    appendEvent(context.db, 'broadcast-taken-back', context.clock.now(), { broadcastId, detail: 'again' })
  })
}
