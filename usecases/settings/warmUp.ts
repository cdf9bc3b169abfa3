/** The plan of a new sender: so many emails a day, growing. */
import type { WarmUp } from '#core/sending/warmUp'
import { localOf } from '#core/time/zone'
import { releaseTurns } from '#data/outboxAside'
import { setWarmUp, warmUpOf } from '#data/warmUp'
import { workspaceOf } from '#data/workspace'
import type { WorkspaceContext } from '../context'
import { theSender } from '../inner/senderOf'
import { transact } from '../inner/reactor/transaction'
import { InputProblem } from '../problem'

/** It begins today, or goes on with other numbers; null ends it. What waits by it is looked at anew. */
export function saveWarmUp(context: WorkspaceContext, senderId: number, asked: Omit<WarmUp, 'startedOn'> | null): void {
  const { db, clock } = context
  if (asked && asked.until <= asked.first) {
    throw new InputProblem([{ field: 'until', problem: 'The plan ends with more emails a day than it begins with.' }])
  }
  transact(context, () => {
    theSender(db, senderId)
    const at = clock.now()
    const startedOn = warmUpOf(db, senderId)?.startedOn ?? localOf(at, workspaceOf(db).zone).date
    setWarmUp(db, senderId, asked && { ...asked, startedOn })
    releaseTurns(db, ['warm-up'], at)
  })
  context.wake()
}
