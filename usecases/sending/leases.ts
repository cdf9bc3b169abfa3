/** Leases that nobody holds any more: an engine died, or met something it did not come back from. */
import { MINUTE } from '#core/time/zone'
import { expiredLeases, findInOutbox, orphans, takeBack, type OutboxRow, type OwnerMail } from '#data/outbox'
import type { EngineContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { mayHaveArrived } from './settle'

/** A lease that was not renewed for so long is swept. */
export const LEASE = 3 * MINUTE
/** How often its holder renews it. */
export const RENEW = MINUTE

export interface Swept { givenBack: number, repeats: number }

/** Takes back what ran out; in every round of the engine. */
export const sweepLeases = (context: EngineContext): Swept =>
  sweep(context, () => expiredLeases(context.db, context.system.now()), 'we lost track of it while it was being sent')

/** What an engine that died was holding. Call only while no other engine runs. */
export const recover = (context: EngineContext): Swept =>
  sweep(context, () => orphans(context.db, context.owner), 'the engine stopped while sending it')

/**
 * What was only claimed goes back as it was. What was just being handed over
 * may have left: it goes again with the same Message-ID, counted and bounded,
 * unless the carrier knows repeats by that.
 */
function sweep(context: EngineContext, find: () => (OutboxRow | OwnerMail)[], words: string): Swept {
  const { db } = context
  if (find().length === 0) return { givenBack: 0, repeats: 0 }
  return transact(context, () => {
    const swept = { givenBack: 0, repeats: 0 }
    for (const row of find()) {
      if (row.status === 'leased' || context.carrier.knowsRepeats) {
        takeBack(db, row.id)
        swept.givenBack++
      }
      else {
        mayHaveArrived(context, row, findInOutbox(db, row.id)!, words, context.clock.now())
        swept.repeats++
      }
    }
    return swept
  })
}
