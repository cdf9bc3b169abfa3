/** A broadcast leaves: scheduled, taken back while that is possible, paused, resumed and stopped. */
import { PLANNED_ITEM } from '#core/broadcast/again'
import { audienceOf, missingForSending, sendOfBroadcast, type BroadcastDraft } from '#core/broadcast/draft'
import { timingOf } from '#core/broadcast/when'
import type { Instant } from '#core/time/zone'
import { deleteArchived } from '#data/archive'
import { setScheduled, zonesOfPeople } from '#data/broadcasts'
import { appendEvent } from '#data/events'
import { deleteSend, insertSend, updateSend } from '#data/sends'
import { workspaceOf } from '#data/workspace'
import type { Database } from '#data/connection'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { mustBe } from '../inner/revision'
import { keepWording, makeWordings } from '../inner/wordings'
import { InputProblem, NotNow, type FieldProblem } from '../problem'
import { pauseSend, resumeSend, stopSend, TAKE_BACK } from '../sending/audience'
import { forgetPlanned, planAgain, wordingAgain } from './again'
import { mayChange, revised, theBroadcast } from './save'

/** What keeps it from being sent: in itself, in when it is to go, and in who it is from. */
export function missingOfBroadcast({ db, clock }: Pick<WorkspaceContext, 'db' | 'clock'>, draft: BroadcastDraft): FieldProblem[] {
  const { senderAddress, postalAddress } = workspaceOf(db)
  const missing: FieldProblem[] = missingForSending(draft)
  if (senderAddress === '' || postalAddress.trim() === '') {
    missing.push({ field: 'sender', problem: 'Fill in the sender and the postal address in Settings: every email must carry them.' })
  }
  const isTimed = draft.when.kind === 'at' && !missing.some(({ field }) => field === 'when')
  if (isTimed && layOut(db, draft, clock.now()).lastAt < clock.now()) {
    missing.push({ field: 'when', problem: 'This time has passed. Choose a later one, or send it now.' })
  }
  return missing
}

/** When it begins, when its last reader’s time comes, and how it is laid out between. */
export function layOut(db: Database, draft: BroadcastDraft, now: Instant) {
  const { zone } = workspaceOf(db)
  const zones = zonesOfPeople(db)
  const { dueAt, timing } = timingOf(draft, now, zone, zones)
  const lastAt = timing.clock === null ? dueAt : Math.max(...[zone, ...zones].map(one => timingOf({
    ...draft, when: { ...timing.clock!, kind: 'at', zone: 'workspace' },
  }, now, one, []).dueAt))
  return { dueAt, timing, lastAt }
}

/**
 * It is to be sent as it is written now: at its time, or in a minute, in which it can be taken back. One that is scheduled already becomes
 * what is written. Throws an {@link InputProblem} where something is missing, and a {@link NotNow} once it has begun.
 */
export async function scheduleBroadcast(context: WorkspaceContext, id: number, seen: string | null = null): Promise<void> {
  const { db } = context
  for (;;) {
    const { draft } = theBroadcast(db, id)
    mustBe(context, seen, revised(theBroadcast(db, id)))
    const missing = missingOfBroadcast(context, draft)
    if (missing.length > 0) throw new InputProblem(missing)
    const wording = { of: sendOfBroadcast(id), content: draft.content }
    const again = draft.again && wordingAgain(id, PLANNED_ITEM, draft, draft.again)
    const made = await makeWordings(context, [wording, ...again ? [again] : []])
    const isScheduled = transact(context, () => {
      const now = theBroadcast(db, id)
      if (!mayChange(now)) throw new NotNow('This has begun to be sent.')
      // Meanwhile it was written on: it is made once more.
      if (JSON.stringify(now.draft) !== JSON.stringify(draft)) return false
      const at = context.clock.now()
      const { dueAt, timing } = layOut(db, draft, at)
      const row = {
        messageId: keepWording(context, wording, made, at), listId: draft.listId!, audience: audienceOf(draft), dueAt: Math.max(at, dueAt),
        timing, heldUntilAt: dueAt <= at ? context.system.now() + TAKE_BACK : null,
      }
      const sendId = now.sendId ?? insertSend(db, { ...sendOfBroadcast(id), ...row })
      if (now.sendId !== null) updateSend(db, sendId, row)
      setScheduled(db, id, { draft, sendId })
      planAgain(context, id, draft, { sendId, dueAt: row.dueAt }, again && { wording: again, made })
      deleteArchived(db, { kind: 'broadcast', id })
      appendEvent(db, 'broadcast-scheduled', at, { broadcastId: id })
      return true
    })
    if (!isScheduled) continue
    context.wake()
    return
  }
}

/** It is a draft again, as it is written now. Throws a {@link NotNow} once it has begun. */
export function takeBackBroadcast(context: WorkspaceContext, id: number): void {
  const { db } = context
  transact(context, () => {
    const { state, sendId } = theBroadcast(db, id)
    if (state === 'draft') return
    if (state !== 'scheduled') throw new NotNow('This has begun to be sent. You can pause it, or stop it.')
    setScheduled(db, id, null)
    forgetPlanned(db, id)
    deleteSend(db, sendId!)
    appendEvent(db, 'broadcast-taken-back', context.clock.now(), { broadcastId: id })
  })
}

type Telling = 'broadcast-paused' | 'broadcast-resumed' | 'broadcast-stopped'

type Doing = (context: WorkspaceContext, id: number) => void

const doing = (work: Doing, tells: Telling): Doing => (context, id) => {
  const { sendId, state } = theBroadcast(context.db, id)
  if (sendId === null || state === 'scheduled') throw new NotNow('This is not being sent yet.')
  work(context, sendId)
  transact(context, () => void appendEvent(context.db, tells, context.clock.now(), { broadcastId: id }))
}

export const pauseBroadcast = doing(pauseSend, 'broadcast-paused')
export const resumeBroadcast = doing(resumeSend, 'broadcast-resumed')
/** What was planned after it is not sent either. */
export const stopBroadcast: Doing = (context, id) => {
  doing(stopSend, 'broadcast-stopped')(context, id)
  transact(context, () => forgetPlanned(context.db, id))
}
