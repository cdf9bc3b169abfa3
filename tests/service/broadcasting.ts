/** Broadcasts, for tests of what becomes of them. */
import { newBroadcast, type BroadcastDraft } from '#core/broadcast/draft'
import { createBroadcast, saveBroadcast } from '#usecases/broadcasts/save'
import { scheduleBroadcast } from '#usecases/broadcasts/schedule'
import { email, type Workshop } from './workshop'

/** Nobody is spared. */
export const NO_GUARDS = { newcomerDays: null, insideCourseIds: [], owners: true }

/** One to everybody, now, unless something else is said. Returns its number. */
export function writeBroadcast(context: Workshop, listId: number, more: Partial<BroadcastDraft> = {}): number {
  const id = createBroadcast(context)
  saveBroadcast(context, id, { ...newBroadcast(listId), content: email('Winter papers'), guards: NO_GUARDS, ...more })
  return id
}

/** It begins as the clock moves on by a minute. */
export async function sendBroadcast(context: Workshop, listId: number, more: Partial<BroadcastDraft> = {}): Promise<number> {
  const id = writeBroadcast(context, listId, more)
  await scheduleBroadcast(context, id)
  return id
}
