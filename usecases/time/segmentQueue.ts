/** Keeping segments up to date: people are looked at again after each event of their own, and when a time condition turns. */
import type { Moment } from '#core/audience/condition'
import { holds } from '#core/audience/meaning'
import { toSql } from '#core/audience/sql'
import { mayChangeByTime, reevaluateAt } from '#core/audience/reevaluate'
import { dateDetail } from '#core/rules/waking'
import type { Instant } from '#core/time/zone'
import type { Database } from '#data/connection'
import { lazyFacts } from '#data/audience'
import { appendEvent } from '#data/events'
import { lastPersonId } from '#data/people'
import {
  dueInSegmentQueue, dueReevaluations, dequeue, fillSegment, enqueueSpan, queuedFor, setFilledTo, setSegmentStanding, segmentStandingsOf,
  watchedSegments, type WatchedSegment,
} from '#data/segments'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { momentOf } from '../inner/moment'

/** Those who sign up meanwhile wait for no more than that many. */
const BATCH = 50

/** Looks at people to whom something had happened by `at`, as of then. Returns how many. */
export function reevaluatePeople(context: WorkspaceContext, at: Instant): number {
  const { db } = context
  return transact(context, () => {
    const moment = momentOf(db, at)
    const queued = dueInSegmentQueue(db, moment.now, BATCH)
    const watched = watchedSegments(db)
    for (const { personId, eventId } of queued) {
      reevaluate(db, personId, watched, moment, eventId)
      dequeue(db, personId)
    }
    return queued.length
  })
}

/** Looks at one person now, before their turn. Within a transaction of the caller's. */
export function reevaluatePerson(context: WorkspaceContext, personId: number): void {
  const { db } = context
  reevaluate(db, personId, watchedSegments(db), momentOf(db, context.clock.now()), queuedFor(db, personId)?.eventId ?? null)
  dequeue(db, personId)
}

/** Looks at people for whom time alone may have turned something by `at`, as of then. Returns how many. */
export function reevaluateByTime(context: WorkspaceContext, at: Instant): number {
  const { db } = context
  return transact(context, () => {
    const moment = momentOf(db, at)
    const due = dueReevaluations(db, moment.now, BATCH)
    const watched = watchedSegments(db)
    for (const { personId } of due) reevaluate(db, personId, watched, moment, null)
    return due.length
  })
}

function reevaluate(db: Database, personId: number, segments: WatchedSegment[], moment: Moment, causeId: number | null): void {
  const facts = lazyFacts(db, personId)
  const before = new Map(segmentStandingsOf(db, personId).map(standing => [standing.segmentId, standing]))
  for (const { id, condition, filled, watch } of segments) {
    const was = before.get(id)
    const inside = facts && holds(condition, facts, moment) ? 1 : 0
    const next = facts ? reevaluateAt(condition, facts, moment) : null
    if ((was?.inside ?? 0) === inside && (was?.reevaluateAt ?? null) === next) continue
    setSegmentStanding(db, personId, { segmentId: id, inside, reevaluateAt: next })
    // Until everybody has been looked at once, what changes is what we know, not the person.
    if (filled && (was?.inside ?? 0) !== inside) tell(db, personId, { id, watch }, inside === 1, moment.now, causeId)
  }
}

function tell(
  db: Database, personId: number, { id, watch }: Pick<WatchedSegment, 'id' | 'watch'>, inside: boolean, at: Instant, causeId: number | null,
): void {
  if (watch === null) appendEvent(db, inside ? 'entered-segment' : 'left-segment', at, { personId, segmentId: id, causeId })
  else if (inside && watch.kind === 'became-silent') appendEvent(db, 'became-silent', at, { personId, causeId, detail: String(watch.days) })
  else if (inside && watch.kind === 'date-arrived') appendEvent(db, 'date-arrived', at, {
    personId, fieldId: watch.fieldId, causeId, detail: dateDetail(watch),
  })
}

/** So many ids at a time are looked at for a segment that was made or changed. */
const SPAN = 2000

/** Looks at some more people for one segment that was made or changed. True if there was one. */
export function fillOneSegment(context: WorkspaceContext): boolean {
  const { db } = context
  return transact(context, () => {
    const segment = watchedSegments(db).find(({ filled }) => !filled)
    if (!segment) return false
    const moment = momentOf(db, context.clock.now())
    const last = lastPersonId(db)
    const span = { after: segment.filledTo, to: Math.min(last, segment.filledTo + SPAN) }
    fillSegment(db, segment.id, span, toSql(segment.condition, moment))
    // Those whom time may turn are looked at one by one, which says when.
    const changing = mayChangeByTime(segment.condition, moment.segments)
    if (changing) enqueueSpan(db, span, toSql(changing, moment), moment.now)
    setFilledTo(db, segment.id, span.to, span.to === last)
    return true
  })
}
