/** Starting a course, and changing one that runs. */
import type { Facts } from '#core/sequence/journey'
import { changesBetween, effectsOf, newEnd } from '#core/sequence/changes'
import { standingSince } from '#core/sequence/comeIn'
import { emailsOf, missingForStart, programOf, wordedIn, type CourseDraft } from '#core/sequence/draft'
import { dateFieldsOf } from '#core/sequence/program'
import { isWritten } from '#core/message/content'
import { circleThrough, courseAsRule } from '#core/rules/circles'
import { sayCircle } from '#core/rules/say'
import { atOnceOf } from '#core/sequence/atOnce'
import { sayPeople, type TaskSpec } from '#core/people/task'
import type { Instant } from '#core/time/zone'
import type { ChangeOutlook, Outlook, StartOutlook } from '#core/views/course'
import { deleteArchived } from '#data/archive'
import { readTogether, type Database } from '#data/connection'
import type { CourseRow } from '#data/courses'
import { findCourse, insertVersion, programOfVersion, setMoving, setRunning } from '#data/courses'
import { countOutside, hasSince, someOutside } from '#data/doors'
import { countFinished, countInside } from '#data/enrolments'
import { standingsOfCourse, type Standing } from '#data/standings'
import { countValues } from '#data/fields'
import { appendEvent } from '#data/events'
import { allRules } from '#data/rules'
import { sendingHours, workspaceOf } from '#data/workspace'
import type { House } from '../house'
import { write } from '../inner/transaction'
import { dateFieldsRunning, dateOfStanding, factsFor, houseFacts } from '../inner/enrolments'
import { moveSome } from '../inner/versions'
import { beginTask } from '../inner/beginTask'
import { clearAway } from '../inner/clearing'
import { doorOf, entrySql } from '../inner/comings'
import { ruleNamesOf } from '../inner/names'
import { reachOf } from '../inner/reach'
import { keepWording, makeWordings, type Wording } from '../inner/wordings'
import { mustBe } from '../inner/revision'
import { InputProblem, NotNow, NotThere } from '../problem'

/** Whether somebody's hold is over is only known once they are looked at one by one. */
const UNSEEN: Pick<Facts, 'holds' | 'turnsAt' | 'awaited'> = { holds: () => false, turnsAt: () => null, awaited: () => ({ kind: 'open' }) }

/** So many are looked at one by one to say where they would stand. */
const LOOKED_AT = 2000

/** What is said beside the course while it is written. */
export const outlookOf = (house: House, { id, draft }: Pick<CourseRow, 'id' | 'draft'>): Outlook => ({
  missing: missingForPublishing(house, id, draft),
  emptyEmails: emailsOf(draft).filter(step => !isWritten(step.content)).length,
})

/** Whom starting would reach. */
export const startOutlook = (house: House, courseId: number): StartOutlook => readTogether(house.db, () => outside(house, courseId))

function outside(house: House, courseId: number): StartOutlook {
  const { db } = house
  const { draft } = courseOf(house, courseId)
  const at = house.clock.now()
  if (draft.dates) return { kind: 'by-date', fieldId: draft.dates.fieldId, people: countValues(db, draft.dates.fieldId) }
  const door = doorOf(courseId, draft)
  const entry = entrySql(db, draft, at)
  const outside = countOutside(db, door, entry)
  const program = programOf(draft, () => 0)
  const looked = someOutside(db, door, entry, LOOKED_AT)
  const standing = new Map<string | null, number>()
  for (const { id, zone } of looked) {
    const joinedAt = Math.min(at, hasSince(db, id, door) ?? at)
    const since = standingSince(program, joinedAt, at, { ...factsFor(db, { id, zone }, { courseId, visit: 1, occursOn: null, program }) })
    const place = since.status === 'finished' ? null : since.stepId
    standing.set(place, (standing.get(place) ?? 0) + 1)
  }
  return { kind: 'door', ...outside, looked: looked.length, byJoining: [...standing].map(([stepId, people]) => ({ stepId, people })) }
}

/** What publishing would change, for how many at which step. */
export const changeOutlook = (house: House, courseId: number): ChangeOutlook => readTogether(house.db, () => change(house, courseId))

function change(house: House, courseId: number): ChangeOutlook {
  const { db } = house
  const { draft, published, versionId } = courseOf(house, courseId)
  if (!published || versionId === null) throw new NotNow('This course has not been started yet.')
  const at = house.clock.now()
  const next = programOf(draft, () => 0)
  const facts = houseFacts(db)
  let inside = 0
  const count = (rows: Standing[]) => rows.map((row) => {
    inside += row.people
    return row
  })
  const standings = count(standingsOfCourse(db, courseId, [...new Set([...dateFieldsOf(next), ...dateFieldsRunning(db)])]))
  const effects = effectsOf(next, id => programOfVersion(db, id), standings, at, row => ({ ...facts, ...UNSEEN, personZone: (row as Standing).personZone, dateOf: dateOfStanding(row as Standing, next) }))
  const endId = newEnd(programOfVersion(db, versionId), next)
  return { ...changesBetween(published, draft), inside, effects, newEnd: endId === null ? null : { stepId: endId, finished: countFinished(db, courseId) } }
}

/** What becomes of those who wait outside as a course starts. */
export type Include = { kind: 'none' } | { kind: 'now' } | { kind: 'spread', days: number } | { kind: 'by-joining' }

/** Lets a course run. Those who wait outside come in bit by bit, as was said for them; `people` is the number that was seen. Returns how many are on their way in. */
export async function startCourse(house: House, courseId: number, include: Include = { kind: 'none' }, people: number | null = null, seen: string | null = null): Promise<{ comingIn: number }> {
  const { db } = house
  const comingIn = await publish(house, courseId, seen, (course, versionId, at) => {
    if (course.status === 'running') throw new NotNow('This course is running already.')
    appendEvent(db, 'course-started', at, { courseId })
    deleteArchived(db, { kind: 'course', id: courseId })
    setRunning(db, courseId, versionId, course.draft, at)
    if (course.draft.dates) return planByDate(db, course, at)
    if (include.kind === 'none') return 0
    const waiting = people ?? countOutside(db, doorOf(courseId, course.draft), entrySql(db, course.draft, at)).waiting
    if (waiting === 0) return 0
    const spec: TaskSpec = { kind: 'enrol', courseId, ...include.kind !== 'now' && { comesIn: include } }
    beginTask(db, { title: `Let ${sayPeople(waiting)} into ${course.name}`, spec, whom: { kind: 'outside', courseId }, said: waiting, at })
    return waiting
  })
  return { comingIn }
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

/** Puts the draft of a running course into force. People keep their step; what was sent stays sent. `newEnd`: who has come to the old end goes on with the new one. */
export async function publishChanges(house: House, courseId: number, { goesOn = false, seen = null }: { goesOn?: boolean, seen?: string | null } = {}): Promise<{ moved: number, goOn: number }> {
  const { db } = house
  let goOn = 0
  const moved = await publish(house, courseId, seen, (course, versionId, at) => {
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
      beginTask(db, { title: `Let ${sayPeople(goOn)} go on in ${course.name}`, spec, whom: { kind: 'finished', courseId }, said: null, total: goOn, at })
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
async function publish(house: House, courseId: number, seen: string | null, then: (course: CourseRow, versionId: number, at: number) => number): Promise<number> {
  const { db, composer } = house
  for (;;) {
    const course = courseOf(house, courseId)
    mustBe(house, seen, course)
    const missing = missingForPublishing(house, courseId, course.draft)
    if (missing.length > 0) throw new InputProblem(missing.map(({ stepId, problem }) => ({ field: stepId ?? 'course', problem })))
    const wordings = new Map(wordedIn(course.draft).map(({ key, stepId, content }): [string, Wording] => [key, { of: { kind: 'course', thingId: courseId, stepId }, content, because: 'list' }]))
    const made = await makeWordings(db, composer, [...wordings.values()])
    const result = write(house, () => {
      if (JSON.stringify(courseOf(house, courseId).draft) !== JSON.stringify(course.draft)) return null
      const at = house.clock.now()
      const program = programOf(course.draft, key => keepWording(db, wordings.get(key)!, made, at))
      return then(course, insertVersion(db, courseId, program, course.draft, at), at)
    })
    if (result !== null) {
      house.wake()
      return result
    }
  }
}

function missingForPublishing(house: House, courseId: number, draft: CourseDraft): Outlook['missing'] {
  const { senderAddress, postalAddress } = workspaceOf(house.db)
  return [
    ...missingForStart(draft, sendingHours(house.db)),
    ...circleIn(house.db, courseId, draft),
    ...(senderAddress === '' || postalAddress.trim() === ''
      ? [{ stepId: null, problem: 'Fill in the sender and the postal address in Settings: every email must carry them.' }]
      : []),
  ]
}

/** A course that would let the same people in again and again without any time passing is not published: it would be cut off after twenty rounds. */
function circleIn(db: Database, courseId: number, draft: CourseDraft): Outlook['missing'] {
  if (draft.again === 'once') return []
  const reach = reachOf(db)
  const rule = courseAsRule(courseId, atOnceOf(programOf(draft, () => 0)))
  const circle = circleThrough(rule, allRules(db), {
    ...reach,
    courses: new Map([...reach.courses].filter(([id]) => id !== courseId)),
    coursesStartedBy: tagId => [...reach.coursesStartedBy(tagId).filter(id => id !== courseId), ...draft.wayInTagIds.includes(tagId) ? [courseId] : []],
    coursesStartedByList: listId => [...reach.coursesStartedByList(listId).filter(id => id !== courseId), ...draft.wayInListIds?.includes(listId) ? [courseId] : []],
  })
  return circle ? [{ stepId: null, problem: `People would come in again and again without any time passing: ${sayCircle(circle, ruleNamesOf(db))}. Put a hold or a waiting time on the way.` }] : []
}

function courseOf(house: House, id: number): CourseRow {
  const course = findCourse(house.db, id)
  if (!course) throw new NotThere('This course is not there any more.')
  return course
}
