/** Keeping segments up to date: people are looked at again after each event of their own, and when a time condition turns. */
import type { Condition, Moment } from '#core/audience/condition'
import { holds } from '#core/audience/meaning'
import { toSql } from '#core/audience/sql'
import { mayTurn, turnsAt } from '#core/audience/turns'
import type { Database } from '#data/connection'
import { write } from '#data/connection'
import { factsOf } from '#data/audience'
import { appendEvent } from '#data/events'
import { allSegments, dueLooks, dueTurns, endLook, fillSegment, lookAgain, setStanding, standingsOf } from '#data/segments'
import type { House } from '../house'
import { momentOf } from '../inner/moment'

const BATCH = 200

/** Looks at people to whom something has happened. Returns how many. */
export function lookAtPeople(house: House): number {
  const { db } = house
  return write(db, () => {
    const moment = momentOf(db, house.clock.now())
    const looks = dueLooks(db, moment.now, BATCH)
    const watched = watchedSegments(db)
    for (const { personId, eventId } of looks) {
      lookAt(db, personId, watched, moment, eventId)
      endLook(db, personId)
    }
    return looks.length
  })
}

/** Looks at people for whom time alone may have turned something. Returns how many. */
export function turnSegments(house: House): number {
  const { db } = house
  return write(db, () => {
    const moment = momentOf(db, house.clock.now())
    const due = dueTurns(db, moment.now, BATCH)
    const watched = watchedSegments(db)
    for (const { personId } of due) lookAt(db, personId, watched, moment, null)
    return due.length
  })
}

interface Watched { id: number, condition: Condition, filled: boolean }

const watchedSegments = (db: Database): Watched[] => allSegments(db)

function lookAt(db: Database, personId: number, segments: Watched[], moment: Moment, causeId: number | null): void {
  const facts = factsOf(db, personId)
  const before = new Map(standingsOf(db, personId).map(standing => [standing.segmentId, standing]))
  for (const { id, condition, filled } of segments) {
    const was = before.get(id)
    const inside = facts && holds(condition, facts, moment) ? 1 : 0
    const next = facts ? turnsAt(condition, facts, moment) : null
    if ((was?.inside ?? 0) === inside && (was?.turnsAt ?? null) === next) continue
    setStanding(db, personId, { segmentId: id, inside, turnsAt: next })
    // Until everybody has been looked at once, what changes is what we know, not the person.
    if (filled && (was?.inside ?? 0) !== inside) appendEvent(db, inside ? 'entered-segment' : 'left-segment', moment.now, { personId, segmentId: id, causeId })
  }
}

/** Looks at everybody for one segment that was made or changed. True if there was one. */
export function fillOneSegment(house: House): boolean {
  const { db } = house
  return write(db, () => {
    const segment = allSegments(db).find(({ filled }) => !filled)
    if (!segment) return false
    const moment = momentOf(db, house.clock.now())
    fillSegment(db, segment.id, toSql(segment.condition, moment))
    // Those whom time may turn are looked at one by one, which says when.
    const turning = mayTurn(segment.condition, moment.segments)
    if (turning) lookAgain(db, toSql(turning, moment), moment.now)
    return true
  })
}
