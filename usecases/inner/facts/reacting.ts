/**
 * What a transaction knows besides its rows: what was written in it, and what still follows from that. Whatever changes something about a
 * person writes its row and its event, and leaves the rest to the reactor, which is above it; what it needs of the reactor is named here.
 */
import type { Instant } from '#core/time/zone'
import type { Database } from '#data/connection'

export interface Reacting {
  /** Does what was due for someone before that instant. */
  catchUp(personId: number, before: Instant): void
  /** Does `work`, and then all that follows from what it wrote. */
  settled<Result>(work: () => Result): Result
  /** Lets courses begin and end, and mail be withdrawn, by what was written so far. */
  followAtOnce(): void
  /** Once nothing follows any more from what was written, an enrolment goes on through every step that is due at that very instant. */
  goOn(enrolmentId: number, at: Instant, causeId: number): void
}

const underWay = new WeakMap<Database, Reacting>()

/** `reacting` sees to what follows while `work` is done. */
export function reactBy<Result>(db: Database, reacting: Reacting, work: () => Result): Result {
  const before = underWay.get(db)
  underWay.set(db, reacting)
  try {
    return work()
  }
  finally {
    if (before) underWay.set(db, before)
    else underWay.delete(db)
  }
}

/** Throws outside a use case's transaction: what follows from a change would be lost. */
function reactingIn(db: Database): Reacting {
  const reacting = underWay.get(db)
  if (!reacting) throw new Error('People are changed in the transaction of a use case, which sees to what follows')
  return reacting
}

/**
 * Does what was due for someone before that instant, each step at its own time, before anything about them is changed: what a condition
 * asks for is then read as it was, however late the machine is.
 */
export const catchUp = (db: Database, personId: number, before: Instant): void => reactingIn(db).catchUp(personId, before)

/** Does `work`, and then all that follows from what it wrote, before anything else is done. */
export const settled = <Result>(db: Database, work: () => Result): Result => reactingIn(db).settled(work)

/**
 * Courses begin and end by what was written so far, and mail is withdrawn; points, rules and what waits for an event have their turn later.
 */
export const followAtOnce = (db: Database): void => reactingIn(db).followAtOnce()

/**
 * Forks and actions take no time: an enrolment goes on through all that is due at that instant, once everything has followed that follows.
 */
export const goOnAt = (db: Database, enrolmentId: number, at: Instant, causeId: number): void =>
  reactingIn(db).goOn(enrolmentId, at, causeId)
