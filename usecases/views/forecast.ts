/** What will go out, as far as is decided by where everybody stands now. */
import { sendsUntil } from '#core/sequence/dates'
import type { Instant } from '#core/time/zone'
import type { ComingSend } from '#core/views/frame'
import { readTogether } from '#data/connection'
import { programOfVersion } from '#data/courses'
import { openEnrolmentsDueBy } from '#data/enrolments'
import { emailsWaiting } from '#data/outbox'
import { findPerson } from '#data/people'
import type { House } from '../house'
import { factsFor } from '../inner/enrolments'

/**
 * Coming emails up to `until`, gathered per step within stretches of
 * `stretch` milliseconds counted from now; `at` is the earliest of each.
 */
export function forecast(house: House, until: Instant, stretch: number): ComingSend[] {
  const { db } = house
  return readTogether(db, () => {
    const now = house.clock.now()
    const sends = new Map<string, ComingSend>()
    const add = (courseId: number, stepId: string, at: Instant) => {
      const key = `${courseId}/${stepId}/${Math.floor((at - now) / stretch)}`
      const known = sends.get(key)
      if (known) Object.assign(known, { at: Math.min(known.at, at), people: known.people + 1 })
      else sends.set(key, { kind: 'course', courseId, stepId, at, people: 1 })
    }
    for (const row of emailsWaiting(db, until)) add(row.thingId, row.stepId, Math.max(row.goAt!, now))
    for (const row of openEnrolmentsDueBy(db, until)) {
      const facts = factsFor(db, findPerson(db, row.personId)!)
      for (const send of sendsUntil(programOfVersion(db, row.versionId), row, until, facts)) {
        add(row.courseId, send.stepId, Math.max(send.plannedAt, now))
      }
    }
    return [...sends.values()].sort((a, b) => a.at - b.at || b.people - a.people)
  })
}
