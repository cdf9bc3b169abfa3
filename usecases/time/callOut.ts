/** Calls to addresses outside that are due. */
import { waitAfterCall } from '#core/hooks/retry'
import { MINUTE, type Instant } from '#core/time/zone'
import { write } from '#data/connection'
import { claimDeliveries, findHookOut, markCallFailed, markDelivered, type DeliveryRow } from '#data/hooks'
import type { EngineHouse } from '../house'

const AT_A_TIME = 10
/** One that is under way is not tried again before this, also where the engine dies meanwhile. */
const UNDER_WAY = 10 * MINUTE

/** Makes some that are due, and waits for their answers. */
export async function callOut(house: EngineHouse, at: Instant): Promise<void> {
  const due = write(house.db, () => claimDeliveries(house.db, at, at + UNDER_WAY, AT_A_TIME))
  await Promise.all(due.map(delivery => callOne(house, delivery)))
}

async function callOne({ db, caller, clock }: EngineHouse, { id, hookId, webhookId, body, tries }: DeliveryRow): Promise<void> {
  const hook = findHookOut(db, hookId)!
  const answer = await caller.call(hook, { id: webhookId, body })
  write(db, () => {
    const at = clock.now()
    if (answer.ok) markDelivered(db, id, answer.status, at)
    else {
      const wait = answer.gone ? null : waitAfterCall(tries)
      markCallFailed(db, id, { status: answer.status, problem: answer.problem, nextAt: wait === null ? null : at + wait, at })
    }
  })
}
