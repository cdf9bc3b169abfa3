/** What a step of a course, or its end, does to the person. */
import { placesOf } from '#core/sequence/program'
import type { Database } from '#data/connection'
import { programOfVersion } from '#data/courses'
import { visitsOf } from '#data/enrolments'
import type { RawEvent } from '#data/events'
import { doAction } from './actions'

/** The journey that an event comes of begins with its cause. */
function programOf(db: Database, { personId, courseId, causeId }: RawEvent) {
  const row = visitsOf(db, courseId!, personId).find(({ eventId }) => eventId === causeId)
  return row && programOfVersion(db, row.versionId)
}

export function doActionsOfStep(db: Database, event: RawEvent): void {
  const program = programOf(db, event)
  const step = program && placesOf(program).get(event.stepId!)?.step
  if (step?.kind !== 'do') return
  for (const action of step.then) {
    doAction(db, event.personId, action, { at: event.at, causeId: event.id, ruleId: null, courseId: event.courseId! })
  }
}

export function doActionsOfEnd(db: Database, event: RawEvent): void {
  for (const action of programOf(db, event)?.onFinish ?? []) {
    doAction(db, event.personId, action, { at: event.at, causeId: event.id, ruleId: null, courseId: event.courseId! })
  }
}
