/** Calls to addresses outside that are due. */
import { waitAfterCall } from '#core/hooks/retry'
import { MINUTE, type Instant } from '#core/time/zone'
import { immediate } from '#data/connection'
import { claimDeliveries, findHookOut, markCallFailed, markDelivered, type DeliveryRow } from '#data/hooks'
import type { EngineContext } from '../context'

const AT_A_TIME = 10
/** One that is under way is not tried again before this, also where the engine dies meanwhile. */
const UNDER_WAY = 10 * MINUTE

/** Makes some that are due, and waits for their answers. */
export async function callOut(context: EngineContext, at: Instant): Promise<void> {
  const due = immediate(context.db, () => claimDeliveries(context.db, at, at + UNDER_WAY, AT_A_TIME))
  await Promise.all(due.map(delivery => callOne(context, delivery)))
}

async function callOne({ db, caller, clock }: EngineContext, { id, hookId, webhookId, body, tries }: DeliveryRow): Promise<void> {
  const hook = findHookOut(db, hookId)!
  const answer = await caller.call(hook, { id: webhookId, body })
  immediate(db, () => {
    const at = clock.now()
    if (answer.ok) markDelivered(db, id, answer.status, at)
    else {
      const wait = answer.gone ? null : waitAfterCall(tries)
      markCallFailed(db, id, { status: answer.status, problem: answer.problem, nextAt: wait === null ? null : at + wait, at })
    }
  })
}
