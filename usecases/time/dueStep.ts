/** Steps, watches and vanishing tags whose time has come. */
import type { Instant } from '#core/time/zone'
import { dueEnrolments, findEnrolment } from '#data/enrolments'
import { appendEvent } from '#data/events'
import { standsFor } from '#data/markEnds'
import { deleteHolding, expiredHoldings, findTag } from '#data/marks'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { takeTag } from '../inner/facts/marks'
import { goOnAt, settled } from '../inner/facts/reacting'
import { happenTo } from '../inner/journeys/advancing'
import { settleTimeouts } from '../inner/actions/reactions'

/** So many in one transaction: few enough that a sign-up does not wait, enough that the disk is not asked for each. */
const BATCH = 200

/**
 * Does steps that are due by `at`. No lease is needed: deciding, queueing the
 * email and moving on are one transaction, so a step is done wholly or not at
 * all. Returns how many were done.
 */
export function doDueSteps(context: WorkspaceContext, at: Instant): number {
  return transact(context, () => {
    const { db } = context
    const rows = dueEnrolments(db, at, BATCH)
    const done = new Set<number>()
    for (const row of rows) {
      const { id, personId, dueAt, eventId } = row
      settled(db, () => {
        // What was done to somebody just now may have changed all that is theirs.
        const now = done.has(personId) ? findEnrolment(db, id)! : row
        const nextAt = happenTo(db, now, { kind: 'due', at }, eventId)
        // What comes at the same instant is done with it, person by person.
        if (nextAt === dueAt) goOnAt(db, id, dueAt!, eventId)
      })
      done.add(personId)
    }
    return rows.length
  })
}

/** Looks at what emails waited for in vain: no open, no click in time. */
export function doDueTimeouts(context: WorkspaceContext, at: Instant): number {
  return transact(context, () => settleTimeouts(context.db, at, BATCH))
}

/** Tags whose time is over vanish, at their time. */
export function expireTags(context: WorkspaceContext, at: Instant): number {
  const { db } = context
  return transact(context, () => {
    const rows = expiredHoldings(db, at, BATCH)
    for (const { personId, tagId, expiresAt, eventId } of rows) {
      if (findTag(db, tagId)) takeTag(db, personId, tagId, { at: expiresAt, causeId: eventId, ownAct: false }, 'expired')
      else {
        // Of a tag that is gone, and not cleared away yet. One that was merged goes on as the other.
        deleteHolding(db, tagId, personId)
        if (standsFor(db, 'tags', tagId) === null) {
          appendEvent(db, 'lost-tag', expiresAt, { personId, tagId, causeId: eventId, detail: 'expired' })
        }
      }
    }
    return rows.length
  })
}
