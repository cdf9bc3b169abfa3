/** Steps, watches and vanishing tags whose time has come. */
import { placesOf } from '#core/sequence/program'
import type { Instant } from '#core/time/zone'
import { programOfVersion } from '#data/courses'
import { dueEnrolments, dueWatches, endWatch } from '#data/enrolments'
import { appendEvent } from '#data/events'
import { findEmail } from '#data/outbox'
import { expiredHoldings } from '#data/marks'
import type { House } from '../house'
import { write } from '../inner/transaction'
import { aboutEmail } from '../inner/aboutEmail'
import { doWhatIsDue, happen } from '../inner/enrolments'
import { giveTag, takeTag } from '../inner/marks'

/** So many in one transaction: few enough that a sign-up does not wait, enough that the disk is not asked for each. */
const BATCH = 200

/**
 * Does steps that are due by `at`. No lease is needed: deciding, queueing the
 * email and moving on are one transaction, so a step is done wholly or not at
 * all. Returns how many were done.
 */
export function doDueSteps(house: House, at: Instant): number {
  return write(house, () => {
    const rows = dueEnrolments(house.db, at, BATCH)
    for (const row of rows) {
      const { dueAt } = row
      happen(house.db, row, { kind: 'due', at }, row.eventId)
      // What comes at the same instant is done with it, person by person.
      doWhatIsDue(house.db, row.id, dueAt!, row.eventId)
    }
    return rows.length
  })
}

/** Looks whether an email was clicked in time; where it was not, the step's tag is given. */
export function doDueWatches(house: House, at: Instant): number {
  const { db } = house
  return write(house, () => {
    const rows = dueWatches(db, at, BATCH)
    for (const row of rows) {
      const email = findEmail(db, row.outboxId)!
      endWatch(db, row.id, at)
      if (email.clickedAt !== null) continue
      const causeId = appendEvent(db, 'not-clicked', row.dueAt, aboutEmail(email))
      giveTag(db, email.personId, row.tagId, { at: row.dueAt, causeId, ownAct: false })
    }
    return rows.length
  })
}

/** Tags whose time is over vanish, at their time. */
export function expireTags(house: House, at: Instant): number {
  const { db } = house
  return write(house, () => {
    const rows = expiredHoldings(db, at, BATCH)
    for (const { personId, tagId, expiresAt, eventId } of rows) takeTag(db, personId, tagId, { at: expiresAt, causeId: eventId, ownAct: false }, 'expired')
    return rows.length
  })
}

/** What the step of this email watches for, if anything. */
export function watchOf(house: House, versionId: number, stepId: string): { days: number, tagId: number } | null {
  const step = placesOf(programOfVersion(house.db, versionId)).get(stepId)?.step
  return step?.kind === 'email' ? step.ifNotClicked : null
}
