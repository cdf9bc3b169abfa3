/** The invented readers of practice do what they were going to do, by the same use cases as anybody else. */
import type { Instant } from '#core/time/zone'
import { dueReaderActs, endReaderAct } from '#data/reading'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { leave } from '../arrive/leave'
import { recordClick } from '../reading/click'
import { recordOpen, type Visit } from '../reading/open'
import { confirm } from '../arrive/confirm'
import { confirmWaiting } from '../offers/wait'
import { recordFetch } from '../arrive/files'
import { findEmail } from '#data/outbox'

export function letReadersAct(context: WorkspaceContext, at: Instant): number {
  const { db } = context
  return transact(context, () => {
    const acts = dueReaderActs(db, at, 200)
    for (const act of acts) {
      if (!endReaderAct(db, act.id, at)) continue
      const visit = { agent: act.agent, robot: false, certain: false }
      if (act.kind === 'open') recordOpen(context, act.outboxId, visit)
      else if (act.kind === 'click') recordClick(context, act.outboxId, act.linkN!, visit)
      else if (act.kind === 'press') pressOwnButton(context, act.outboxId, visit)
      else leave(context, act.outboxId, { what: 'everything' })
    }
    return acts.length
  })
}

/** Says yes, or fetches the file. */
function pressOwnButton(context: WorkspaceContext, outboxId: number, visit: Visit): void {
  const email = findEmail(context.db, outboxId)!
  if (email.kind === 'confirmation') confirm(context, email.occasionId)
  else if (email.kind === 'waiting') confirmWaiting(context, email.occasionId)
  else recordFetch(context, outboxId, visit)
}
