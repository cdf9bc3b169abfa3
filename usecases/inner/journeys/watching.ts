/** What just happened to someone leads them out of a course, or on in one. */
import { matches } from '#core/rules/waking'
import { hasComeTo } from '#core/sequence/program'
import { memoize, type Database } from '#data/connection'
import { coursesChange, programOfVersion, runningCourses } from '#data/courses'
import { holdsOfPerson, openEnrolmentsOfPerson } from '#data/enrolments'
import type { RawEvent } from '#data/events'
import { catchUp, goOnAt } from '../facts/reacting'
import { ruleEventOf } from '../ruleEvent'
import { happen } from './advancing'
import { endEnrolments } from './enrolments'

/** What just happened to someone takes them out of every course that has it for a way out. */
export function checkExits(db: Database, event: RawEvent): void {
  const watching = waysOutBy(db).get(event.kind)
  if (!watching) return
  const happening = ruleEventOf(db, event)
  for (const row of openEnrolmentsOfPerson(db, event.personId)) {
    if (!watching.has(row.courseId) || row.eventId > event.id) continue
    const program = programOfVersion(db, row.versionId)
    const out = program.waysOut?.some(({ when, fromStepId }) =>
      matches(when, happening) && (fromStepId === null || hasComeTo(program, row.stepId, fromStepId)))
    if (out) endEnrolments(db, event.personId, event.at, event.id, 'way-out', one => one.id === row.id)
  }
}

/** The courses that run and watch for each kind of event. */
function waysOutBy(db: Database): Map<string, Set<number>> {
  return memoize(db, 'ways out', coursesChange(db), () => {
    const watching = new Map<string, Set<number>>()
    for (const { id, versionId } of runningCourses(db)) {
      for (const { when } of programOfVersion(db, versionId).waysOut ?? []) {
        watching.set(when.kind, (watching.get(when.kind) ?? new Set()).add(id))
      }
    }
    return watching
  })
}

/** Whoever waits in a hold for it goes on. */
export function checkHolds(db: Database, { id, personId, at }: RawEvent): void {
  catchUp(db, personId, at)
  for (const row of holdsOfPerson(db, personId)) {
    happen(db, row, { kind: 'look', at }, id)
    goOnAt(db, row.id, at, id)
  }
}
