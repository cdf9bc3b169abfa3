/** Starting a course, and changing one that runs. */
import type { Facts } from '#core/sequence/journey'
import { changesBetween, effectsOf, newEnd } from '#core/sequence/changes'
import { standingSince } from '#core/sequence/returns'
import { emailsOf, missingForStart, programOf, wordedIn, type CourseDraft } from '#core/sequence/draft'
import { dateFieldsOf } from '#core/sequence/program'
import { isWritten } from '#core/message/blocks'
import { circleThrough, courseAsRule } from '#core/rules/circles'
import { sayCircle } from '#core/rules/say'
import { atOnceOf } from '#core/sequence/atOnce'
import { sayPeople } from '#core/stats/say'
import type { TaskSpec } from '#core/people/task'
import type { Instant } from '#core/time/zone'
import type { ChangeOutlook, Outlook, StartOutlook, Include } from '#core/views/course'
import { deleteArchived } from '#data/archive'
import { readTogether, type Database } from '#data/connection'
import type { CourseRow } from '#data/courses'
import { findCourse, insertVersion, programOfVersion, setMoving, setRunning } from '#data/courses'
import { countOutside, hasSince, someOutside } from '#data/entries'
import { countFinished, countInside } from '#data/enrolments'
import { cohortsOfCourse, type CourseCohort } from '#data/cohorts'
import { countValues } from '#data/fields'
import { appendEvent } from '#data/events'
import { allRules } from '#data/rules'
import { sendingHours, workspaceOf } from '#data/workspace'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { moveSome } from '../time/versions'
import { beginTask } from '../inner/beginTask'
import { clearAway } from '../inner/clearing'
import { ruleNamesOf } from '../inner/names'
import { reachOf } from '../inner/reach'
import { keepWording, makeWordings, type Wording } from '../inner/wordings'
import { mustBe } from '../inner/revision'
import { dateFieldsRunning, dateOfStanding, factsFor } from '../inner/journeyFacts'
import { workspaceFacts } from '../inner/workspaceFacts'
import { entryTriggersOf, entrySql } from '../inner/entries'
import { InputProblem, NotNow, NotThere } from '../problem'

/** Whether somebody's hold is over is only known once they are looked at one by one. */
const UNSEEN: Pick<Facts, 'holds' | 'reevaluateAt' | 'awaited'> = {
  holds: () => false, reevaluateAt: () => null, awaited: () => ({ kind: 'open' }),
}

/** So many are looked at one by one to say where they would stand. */
const LOOKED_AT = 2000

/** What is said beside the course while it is written. */
export const outlookOf = (context: WorkspaceContext, { id, draft }: Pick<CourseRow, 'id' | 'draft'>): Outlook => ({
  missing: missingForPublishing(context, id, draft),
  emptyEmails: emailsOf(draft).filter(step => !isWritten(step.content)).length,
})

/** Whom starting would reach. */
export const startOutlook = (context: WorkspaceContext, courseId: number): StartOutlook =>
  readTogether(context.db, () => outside(context, courseId))

function outside(context: WorkspaceContext, courseId: number): StartOutlook {
  const { db } = context
  const { draft } = courseOf(context, courseId)
  const at = context.clock.now()
  if (draft.dates) return { kind: 'by-date', fieldId: draft.dates.fieldId, people: countValues(db, draft.dates.fieldId) }
  const triggers = entryTriggersOf(courseId, draft)
  const entry = entrySql(db, draft, at)
  const outside = countOutside(db, triggers, entry)
  const program = programOf(draft, () => 0)
  const looked = someOutside(db, triggers, entry, LOOKED_AT)
  const standing = new Map<string | null, number>()
  for (const { id, zone } of looked) {
    const joinedAt = Math.min(at, hasSince(db, id, triggers) ?? at)
    const since = standingSince(program, joinedAt, at, { ...factsFor(db, { id, zone }, { courseId, visit: 1, occursOn: null, program }) })
    const place = since.status === 'finished' ? null : since.stepId
    standing.set(place, (standing.get(place) ?? 0) + 1)
  }
  return { kind: 'now', ...outside, looked: looked.length, byJoining: [...standing].map(([stepId, people]) => ({ stepId, people })) }
}

/** What publishing would change, for how many at which step. */
export const changeOutlook = (context: WorkspaceContext, courseId: number): ChangeOutlook =>
  readTogether(context.db, () => change(context, courseId))

function change(context: WorkspaceContext, courseId: number): ChangeOutlook {
  const { db } = context
  const { draft, published, versionId } = courseOf(context, courseId)
  if (!published || versionId === null) throw new NotNow('This course has not been started yet.')
  const at = context.clock.now()
  const next = programOf(draft, () => 0)
  const facts = workspaceFacts(db)
  let inside = 0
  const count = (rows: CourseCohort[]) => rows.map((row) => {
    inside += row.people
    return row
  })
  const cohorts = count(cohortsOfCourse(db, courseId, [...new Set([...dateFieldsOf(next), ...dateFieldsRunning(db)])]))
  const effects = effectsOf(next, id => programOfVersion(db, id), cohorts, at, row => ({
    ...facts, ...UNSEEN, personZone: (row as CourseCohort).personZone, dateOf: dateOfStanding(row as CourseCohort, next),
  }))
  const endId = newEnd(programOfVersion(db, versionId), next)
  return {
    ...changesBetween(published, draft), inside, effects,
    newEnd: endId === null ? null : { stepId: endId, finished: countFinished(db, courseId) },
  }
}

/**
 * Lets a course run. Those who wait outside come in bit by bit, as was said for them; `people` is the number that was seen. Returns how
 * many are on their way in.
 */
export async function startCourse(
  context: WorkspaceContext, courseId: number, include: Include = { kind: 'none' }, people: number | null = null,
  seen: string | null = null,
): Promise<{ scheduledEntries: number }> {
  const { db } = context
  const scheduledEntries = await publish(context, courseId, seen, (course, versionId, at) => {
    if (course.status === 'running') throw new NotNow('This course is running already.')
    appendEvent(db, 'course-started', at, { courseId })
    deleteArchived(db, { kind: 'course', id: courseId })
    setRunning(db, courseId, versionId, course.draft, at)
    if (course.draft.dates) return planByDate(db, course, at)
    if (include.kind === 'none') return 0
    const waiting = people ?? countOutside(db, entryTriggersOf(courseId, course.draft), entrySql(db, course.draft, at)).waiting
    if (waiting === 0) return 0
    const spec: TaskSpec = { kind: 'enrol', courseId, ...include.kind !== 'now' && { comesIn: include } }
    beginTask(db, { title: `Let ${sayPeople(waiting)} into ${course.name}`, spec, whom: { kind: 'outside', courseId }, said: waiting, at })
    return waiting
  })
  return { scheduledEntries }
}

/** Everybody who has the date comes in with its next return. */
function planByDate(db: Database, { id: courseId, name, draft }: CourseRow, at: Instant): number {
  const { fieldId } = draft.dates!
  const people = countValues(db, fieldId)
  if (people === 0) return 0
  beginTask(db, {
    title: `Plan when ${sayPeople(people)} come into ${name}`, spec: { kind: 'enrol', courseId, comesIn: { kind: 'by-date' } },
    whom: { kind: 'with-field', fieldId }, said: null, total: people, at,
  })
  return people
}

/**
 * Puts the draft of a running course into force. People keep their step; what was sent stays sent. `newEnd`: who has come to the old end
 * goes on with the new one.
 */
export async function publishChanges(
  context: WorkspaceContext, courseId: number, { goesOn = false, seen = null }: { goesOn?: boolean, seen?: string | null } = {},
): Promise<{ moved: number, goOn: number }> {
  const { db } = context
  let goOn = 0
  const moved = await publish(context, courseId, seen, (course, versionId, at) => {
    if (course.status !== 'running') throw new NotNow('This course has not been started yet.')
    const causeId = appendEvent(db, 'course-changed', at, { courseId })
    const endId = newEnd(programOfVersion(db, course.versionId!), programOfVersion(db, versionId))
    setRunning(db, courseId, versionId, course.draft, at)
    setMoving(db, courseId, at, causeId)
    // A few at once; the engine moves the others bit by bit, and nobody is done anything to before.
    moveSome(db, courseId)
    goOn = goesOn && endId !== null ? countFinished(db, courseId) : 0
    if (goOn > 0) {
      const spec: TaskSpec = { kind: 'go-on', courseId, toId: endId! }
      beginTask(db, {
        title: `Let ${sayPeople(goOn)} go on in ${course.name}`, spec, whom: { kind: 'finished', courseId }, said: null, total: goOn, at,
      })
    }
    // Nobody waits for a date of theirs any more, or everybody for another.
    clearAway(db, { what: 'entries-by-date', thingId: courseId, eventId: causeId }, at)
    if (course.draft.dates) planByDate(db, course, at)
    return countInside(db, courseId)
  })
  return { moved, goOn }
}

/**
 * Makes the emails (slow, outside the transaction), then stores the version and
 * lets `then` do the rest, all at once. If the draft was changed meanwhile,
 * it begins again with the newer one.
 */
async function publish(
  context: WorkspaceContext, courseId: number, seen: string | null, then: (course: CourseRow, versionId: number, at: number) => number,
): Promise<number> {
  const { db } = context
  for (;;) {
    const course = courseOf(context, courseId)
    mustBe(context, seen, course)
    const missing = missingForPublishing(context, courseId, course.draft)
    if (missing.length > 0) throw new InputProblem(missing.map(({ stepId, problem }) => ({ field: stepId ?? 'course', problem })))
    const wordings = new Map(wordedIn(course.draft).map(({ key, stepId, content }): [string, Wording] =>
      [key, { of: { kind: 'course', ownerId: courseId, itemId: stepId }, content }]))
    const made = await makeWordings(context, [...wordings.values()])
    const result = transact(context, () => {
      if (JSON.stringify(courseOf(context, courseId).draft) !== JSON.stringify(course.draft)) return null
      const at = context.clock.now()
      const program = programOf(course.draft, key => keepWording(context, wordings.get(key)!, made, at))
      return then(course, insertVersion(db, courseId, program, course.draft, at), at)
    })
    if (result !== null) {
      context.wake()
      return result
    }
  }
}

function missingForPublishing(context: WorkspaceContext, courseId: number, draft: CourseDraft): Outlook['missing'] {
  const { senderAddress, postalAddress } = workspaceOf(context.db)
  return [
    ...missingForStart(draft, sendingHours(context.db)),
    ...circleIn(context.db, courseId, draft),
    ...(senderAddress === '' || postalAddress.trim() === ''
      ? [{ stepId: null, problem: 'Fill in the sender and the postal address in Settings: every email must carry them.' }]
      : []),
  ]
}

/**
 * A course that would let the same people in again and again without any time passing is not published: it would be cut off after twenty
 * rounds.
 */
function circleIn(db: Database, courseId: number, draft: CourseDraft): Outlook['missing'] {
  if (draft.again === 'once') return []
  const reach = reachOf(db)
  const rule = courseAsRule(courseId, atOnceOf(programOf(draft, () => 0)))
  const circle = circleThrough(rule, allRules(db), {
    ...reach,
    courses: new Map([...reach.courses].filter(([id]) => id !== courseId)),
    coursesStartedBy: tagId =>
      [...reach.coursesStartedBy(tagId).filter(id => id !== courseId), ...draft.wayInTagIds.includes(tagId) ? [courseId] : []],
    coursesStartedByList: listId =>
      [...reach.coursesStartedByList(listId).filter(id => id !== courseId), ...draft.wayInListIds?.includes(listId) ? [courseId] : []],
  })
  return circle ? [{
    stepId: null,
    problem: `People would join again and again without any time passing: ${sayCircle(circle, ruleNamesOf(db))}. Add a hold or a wait.`,
  }] : []
}

function courseOf(context: WorkspaceContext, id: number): CourseRow {
  const course = findCourse(context.db, id)
  if (!course) throw new NotThere('This course no longer exists.')
  return course
}
