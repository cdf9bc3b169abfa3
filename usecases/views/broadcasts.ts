/** Broadcasts: listed, and one opened. */
import { dequal } from 'dequal'
import { asksOf } from '#core/message/blocks'
import { readLine } from '#core/message/content'
import type { BroadcastLine, BroadcastProgress, BroadcastState, BroadcastView } from '#core/views/broadcast'
import { allBroadcasts, progressOf, readBy, type BroadcastRow } from '#data/broadcasts'
import { readTogether, type Database } from '#data/connection'
import { findSendById } from '#data/sends'
import { findTask } from '#data/tasks'
import { missingOfBroadcast } from '../broadcasts/schedule'
import { audienceOfStory, mayChange, revised, theBroadcast } from '../broadcasts/save'
import type { WorkspaceContext } from '../context'
import { revisionOf } from '../inner/revision'

function progress(db: Database, sendId: number | null): BroadcastProgress | null {
  const send = sendId === null ? undefined : findSendById(db, sendId)
  if (!send || send.taskId === null) return null
  const task = findTask(db, send.taskId)!
  return { ...progressOf(db, send.id), audience: task.whom === null ? task.total : null }
}

/** What was queued wholly is still being sent while any of it waits. */
const stateOf = ({ state }: Pick<BroadcastRow, 'state'>, now: BroadcastProgress | null): BroadcastState =>
  state === 'sent' && now !== null && now.waiting > 0 ? 'sending' : state

const NOT_READ = { opened: null, clicked: null, left: null }

export const broadcastLines = ({ db }: WorkspaceContext): BroadcastLine[] => readTogether(db, () =>
  allBroadcasts(db).map((broadcast): BroadcastLine => {
    const { id, name, draft, scheduled, dueAt, sendId, changedAt } = broadcast
    const now = progress(db, sendId)
    const { content } = scheduled ?? draft
    return {
      id, name, subject: readLine(content.subject).trim(), asks: asksOf(content), state: stateOf(broadcast, now), dueAt, changedAt,
      progress: now, ...sendId !== null && now !== null && now.handedOver > 0 ? readBy(db, sendId) : NOT_READ,
    }
  }))

export function broadcastView(context: WorkspaceContext, id: number): BroadcastView {
  const { db } = context
  return readTogether(db, () => {
    const broadcast = theBroadcast(db, id)
    const { name, draft, scheduled, dueAt, heldUntilAt, sendId } = broadcast
    const now = progress(db, sendId)
    const before = mayChange(broadcast) ? audienceOfStory(db, draft.story, id) : null
    return {
      id, name, state: stateOf(broadcast, now), draft, scheduled,
      hasChanges: mayChange(broadcast) && scheduled !== null && !dequal(scheduled, draft),
      revision: revisionOf(context, revised(broadcast)), dueAt, heldUntilAt, progress: now,
      missing: mayChange(broadcast) ? missingOfBroadcast(context, draft) : [],
      sameStory: before && !dequal(before, { who: draft.who, guards: draft.guards, listId: draft.listId }) ? before : null,
    }
  })
}
