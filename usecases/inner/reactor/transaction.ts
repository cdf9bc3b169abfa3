/** The transaction of a use case: what it does, and then all that follows from it. */
import { immediate, type Database } from '#data/connection'
import type { WorkspaceContext } from '../../context'
import { Reactor } from './reactor'

/** Connections with a transaction of several parts open, and none of the parts under way. */
const betweenParts = new WeakSet<Database>()

/**
 * Runs `work` in one immediate transaction. Before it is committed, everything follows that follows from what was written. Inside another
 * transaction it simply joins it.
 */
export function transact<Result>(context: Pick<WorkspaceContext, 'db' | 'clock'>, work: () => Result): Result {
  const { db } = context
  const isPart = betweenParts.delete(db)
  if (db.inTransaction && !isPart) return work()
  const whole = () => new Reactor(context).run(work)
  if (!isPart) return immediate(db, whole)
  try {
    return whole()
  }
  finally {
    betweenParts.add(db)
  }
}

/** Several of them in one transaction, one after the other: what follows from each is done before the next begins. */
export function writeInParts(context: Pick<WorkspaceContext, 'db'>, work: () => void): void {
  const { db } = context
  immediate(db, () => {
    betweenParts.add(db)
    try {
      work()
    }
    finally {
      betweenParts.delete(db)
    }
  })
}
