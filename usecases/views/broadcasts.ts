/** Broadcasts: listed, and one opened. */
import { dequal } from 'dequal'
import { PLANNED_ITEM, whoGetsAgain, type AgainSpec } from '#core/broadcast/again'
import { asksOf } from '#core/message/blocks'
import { readLine } from '#core/message/content'
import type { AgainReach, BroadcastLine, BroadcastProgress, BroadcastState, BroadcastView, SecondSending } from '#core/views/broadcast'
import { allBroadcasts, copyCodeOf, progressOf, readBy, type BroadcastRow } from '#data/broadcasts'
import { readTogether, type Database } from '#data/connection'
import { secondSendingsOf, type SecondSendingRow } from '#data/secondSendings'
import { findSendById } from '#data/sends'
import { findTask } from '#data/tasks'
import { copyUrlOf } from '../broadcasts/exchange'
import { missingOfBroadcast } from '../broadcasts/schedule'
import { audienceOfStory, mayChange, revised, theBroadcast } from '../broadcasts/save'
import type { WorkspaceContext } from '../context'
import { sellsOf } from '../inner/broadcastPeople'
import { NotNow } from '../problem'
import { audienceReach } from '../sending/audience'
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

function secondSending(db: Database, { itemId, broadcastId: _, ...second }: SecondSendingRow): SecondSending {
  const now = progress(db, second.sendId)
  return {
    ...second, isPlanned: itemId === PLANNED_ITEM, state: stateOf(second, now), progress: now,
    ...now !== null && now.handedOver > 0 ? readBy(db, second.sendId) : NOT_READ,
  }
}

/** Whom a second sending would reach now, and what earlier ones came to. */
export function againReach(context: WorkspaceContext, { id, spec }: { id: number, spec: Omit<AgainSpec, 'subject'> }): AgainReach {
  const { db, clock } = context
  return readTogether(db, () => {
    const { scheduled, sendId } = theBroadcast(db, id)
    const send = sendId === null ? undefined : findSendById(db, sendId)
    if (!scheduled || !send) throw new NotNow('This has not been sent yet.')
    const sells = sellsOf(context, scheduled).map(offer => offer.id)
    const reachOf = (uncertainToo: boolean) => {
      const getsIt = whoGetsAgain(id, { ...spec, uncertainToo }, { sells, sentAt: send.dueAt! })
      const { people, heldBack } = audienceReach({ db, clock }, {
        kind: 'again', listId: scheduled.listId, audience: { ...send.audience!, getsIt, newcomerDays: null }, sells,
      })
      const held = heldBack.reduce((sum, one) => sum + one.people, 0)
      return { people: people - held, heldBack: held }
    }
    const now = reachOf(spec.uncertainToo)
    const past = allBroadcasts(db).flatMap(one => secondSendingsOf(db, one.id)).flatMap(({ sendId: secondId }) => {
      const { handedOver } = progressOf(db, secondId)
      return handedOver > 0 ? [{ sent: handedOver, ...readBy(db, secondId) }] : []
    })
    const sum = (of: (one: typeof past[number]) => number) => past.reduce((total, one) => total + of(one), 0)
    return {
      ...now, uncertain: spec.without === 'open' && !spec.uncertainToo ? reachOf(true).people - now.people : 0,
      past: { sent: sum(one => one.sent), clicked: sum(one => one.clicked), left: sum(one => one.left) },
    }
  })
}

function urlOfCopy(context: WorkspaceContext, id: number): string | null {
  const code = copyCodeOf(context.db, id)
  return code === null ? null : copyUrlOf(context, code)
}

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
      shared: broadcast.sharedAt === null ? null : {
        url: `${context.baseUrl}/letters/${id}`, pageUrl: `${context.baseUrl}/letters`, feedUrl: `${context.baseUrl}/letters/feed.xml`,
      },
      copyUrl: urlOfCopy(context, id),
      again: mayChange(broadcast) ? [] : secondSendingsOf(db, id).map(second => secondSending(db, second)),
      missing: mayChange(broadcast) ? missingOfBroadcast(context, draft) : [],
      sameStory: before && !dequal(before, { who: draft.who, guards: draft.guards, listId: draft.listId }) ? before : null,
    }
  })
}
