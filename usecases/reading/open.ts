/** The picture of an email is fetched. */
import { judgeOpen } from '#core/reading/judge'
import { appendEvent } from '#data/events'
import { messageOf } from '#data/messages'
import { findEmail } from '#data/outbox'
import { insertOpen } from '#data/reading'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { aboutEmail } from '../inner/aboutEmail'
import { reactToOpen } from '../inner/actions/reactions'

export interface Visit {
  agent: string
  robot: boolean
  /** True for whoever sits at the practice workspace: no machine fetches there, so nothing needs judging. */
  certain: boolean
}

/** Keeps the fetch and judges it. A fetch of an email that never left, or of which nobody wants to know, is ignored. */
export function recordOpen(context: WorkspaceContext, outboxId: number, visit: Visit): void {
  const { db } = context
  transact(context, () => {
    const email = findEmail(db, outboxId)
    if (!email?.handedOverAt || messageOf(db, email.messageId).unwatched) return
    const at = context.clock.now()
    const judged = visit.certain ? 'reader' : judgeOpen({ agent: visit.agent, robot: visit.robot, at, sentAt: email.handedOverAt })
    const eventId = appendEvent(db, 'opened', at, { ...aboutEmail(email), stepId: email.itemId, detail: judged })
    insertOpen(db, { outboxId, personId: email.personId, at, judged, eventId })
    if (judged === 'reader' && email.openedAt === null) reactToOpen(db, email, at, eventId)
  })
}
