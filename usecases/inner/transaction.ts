/** The transaction of a use case: what it does, and then what the house rules do about that. */
import { immediate, type Database } from '#data/connection'
import { lastEventId } from '#data/events'
import type { WorkspaceContext } from '../context'
import { Reactions } from './rules'

const underWay = new WeakMap<Database, Reactions>()

/** Lets what was written so far in this transaction have its consequences now, before something else is done. */
export const reactSoFar = (db: Database): void => underWay.get(db)?.soFar()

/** Connections with a transaction of several parts open, and none of the parts under way. */
const betweenParts = new WeakSet<Database>()

/**
 * Runs `work` in one immediate transaction. Before it is committed, every
 * event that was written gets its points and wakes its rules, in the order of
 * the events; what these write is looked at in its turn. Inside another
 * transaction it simply joins it.
 */
export function transact<Result>(context: Pick<WorkspaceContext, 'db' | 'clock'>, work: () => Result): Result {
  const { db } = context
  const isPart = betweenParts.delete(db)
  if (db.inTransaction && !isPart) return work()
  const whole = () => {
    const reactions = new Reactions(context, lastEventId(db))
    underWay.set(db, reactions)
    try {
      const result = work()
      reactions.soFar()
      return result
    }
    finally {
      underWay.delete(db)
    }
  }
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
