/** Starting a course, and changing one that runs. */
import { isWritten } from '#core/message/content'
import { advance, type Facts } from '#core/sequence/advance'
import type { CourseDraft } from '#core/sequence/draft'
import { emailsOf, missingForStart, programOf } from '#core/sequence/draft'
import { dateFieldsOf } from '#core/sequence/program'
import type { Outlook } from '#core/views/course'
import type { CourseRow } from '#data/courses'
import { findCourse, insertVersion, programOfVersion, setRunning } from '#data/courses'
import { openEnrolmentsOfCourse, standingsOfCourse } from '#data/enrolments'
import { appendEvent } from '#data/events'
import { countWithTags, peopleWithTags } from '#data/marks'
import { sendingHours, workspaceOf } from '#data/workspace'
import type { House } from '../house'
import { write } from '../inner/transaction'
import { dateFieldsRunning, enrol, happen, houseFacts } from '../inner/enrolments'
import { keepWording, makeWordings, type Wording } from '../inner/wordings'
import { mustBe } from '../inner/revision'
import { InputProblem, NotNow, NotThere } from '../problem'

/** Whether somebody's hold is over is only known once they are looked at one by one. */
const UNSEEN: Pick<Facts, 'holds' | 'turnsAt' | 'awaited'> = { holds: () => false, turnsAt: () => null, awaited: () => ({ kind: 'open' }) }

export function outlookOf(house: House, courseId: number): Outlook {
  const { db } = house
  const course = courseOf(house, courseId)
  const { draft } = course
  const missing = missingForPublishing(house, draft)
  const outlook: Outlook = {
    missing,
    emptyEmails: emailsOf(draft).filter(step => !isWritten(step.content)).length,
    outsideDoor: countWithTags(db, draft.wayInTagIds),
    inside: 0,
    atOnce: 0,
  }
  if (course.status !== 'running' || missing.length > 0) return outlook
  const at = house.clock.now()
  const next = programOf(draft, () => 0)
  const facts = houseFacts(db)
  const fields = [...new Set([...dateFieldsOf(next), ...dateFieldsRunning(db)])]
  for (const row of standingsOfCourse(db, courseId, fields)) {
    outlook.inside += row.people
    const moved = advance(next, row, { kind: 'replan', at, from: programOfVersion(db, row.versionId) }, { ...facts, ...UNSEEN, personZone: row.personZone, dateOf: row.dateOf })
    if (moved.enrolment.dueAt !== null && moved.enrolment.dueAt <= at) outlook.atOnce += row.people
  }
  return outlook
}

/** Lets a course run. `include` says whether people who already have one of its tags come in now, from the first step. */
export async function startCourse(house: House, courseId: number, include: 'none' | 'everybody', seen: string | null = null): Promise<{ enrolled: number }> {
  const enrolled = await publish(house, courseId, seen, (course, versionId, at) => {
    if (course.status === 'running') throw new NotNow('This course is running already.')
    const causeId = appendEvent(house.db, 'course-started', at, { courseId })
    setRunning(house.db, courseId, versionId, course.draft, at)
    if (include === 'none') return 0
    return peopleWithTags(house.db, course.draft.wayInTagIds)
      .filter(personId => enrol(house.db, { courseId, personId, at, causeId, ownAct: false }) === 'enrolled').length
  })
  return { enrolled }
}

/** Puts the draft of a running course into force. People keep their step; what was sent stays sent. */
export async function publishChanges(house: House, courseId: number, seen: string | null = null): Promise<{ moved: number }> {
  const moved = await publish(house, courseId, seen, (course, versionId, at) => {
    if (course.status !== 'running') throw new NotNow('This course has not been started yet.')
    const causeId = appendEvent(house.db, 'course-changed', at, { courseId })
    setRunning(house.db, courseId, versionId, course.draft, at)
    const rows = openEnrolmentsOfCourse(house.db, courseId)
    for (const row of rows) {
      happen(house.db, row, { kind: 'replan', at, from: programOfVersion(house.db, row.versionId) }, causeId, versionId)
    }
    return rows.length
  })
  return { moved }
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
    const missing = missingForPublishing(house, course.draft)
    if (missing.length > 0) throw new InputProblem(missing.map(({ stepId, problem }) => ({ field: stepId ?? 'course', problem })))
    const wordings = new Map(emailsOf(course.draft).filter(step => isWritten(step.content))
      .map((step): [string, Wording] => [step.id, { of: { kind: 'course', thingId: courseId, stepId: step.id }, content: step.content, because: 'list' }]))
    const made = await makeWordings(db, composer, [...wordings.values()])
    const result = write(house, () => {
      if (JSON.stringify(courseOf(house, courseId).draft) !== JSON.stringify(course.draft)) return null
      const at = house.clock.now()
      const program = programOf(course.draft, step => keepWording(db, wordings.get(step.id)!, made, at))
      return then(course, insertVersion(db, courseId, program, course.draft, at), at)
    })
    if (result !== null) {
      house.wake()
      return result
    }
  }
}

function missingForPublishing(house: House, draft: CourseDraft): Outlook['missing'] {
  const { senderAddress, postalAddress } = workspaceOf(house.db)
  return [
    ...missingForStart(draft, sendingHours(house.db)),
    ...(senderAddress === '' || postalAddress.trim() === ''
      ? [{ stepId: null, problem: 'Fill in the sender and the postal address in Settings: every email must carry them.' }]
      : []),
  ]
}

function courseOf(house: House, id: number): CourseRow {
  const course = findCourse(house.db, id)
  if (!course) throw new NotThere('This course is not there any more.')
  return course
}
