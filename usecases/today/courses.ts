/** What courses ask for. */
import { dequal } from 'dequal'
import { isWritten } from '#core/message/blocks'
import { nameOfMessage } from '#core/message/content'
import { emailsOf, programOf } from '#core/sequence/draft'
import { placesOf } from '#core/sequence/program'
import { planStep } from '#core/sequence/standing'
import { sayLength, sayMoment } from '#core/time/say'
import type { Instant } from '#core/time/zone'
import type { Notice } from '#core/views/today'
import { cohortsOfCourse } from '#data/cohorts'
import { allCourses, type CourseRow } from '#data/courses'
import { countInside, countStopped } from '#data/enrolments'
import { countOutside } from '#data/entries'
import { workspaceOf } from '#data/workspace'
import type { WorkspaceContext } from '../context'
import { saySome } from '#core/stats/say'
import { inSight } from './inSight'
import { dateFieldsRunning } from '../inner/journeyFacts'
import { workspaceFacts } from '../inner/workspaceFacts'
import { entrySql, entryTriggersOf } from '../inner/entries'

export function courseNotices(context: WorkspaceContext, now: Instant): Notice[] {
  const { db } = context
  const list: Notice[] = []
  for (const course of inSight(db, 'course', allCourses(db))) {
    const to = `/courses/${course.id}`
    if (course.status === 'draft') {
      const { waiting } = countOutside(db, entryTriggersOf(course.id, course.draft), entrySql(db, course.draft, now))
      const emails = emailsOf(course.draft)
      const written = emails.filter(step => isWritten(step.content)).length
      const door = course.draft.dates ? 'People join on a personal date.' : `${saySome(waiting, 'person waits', 'people wait')} to join.`
      list.push({
        tone: 'plain', title: `${course.name} is not started`,
        text: `${written} of ${emails.length} emails written. ${door}`,
        to: written < emails.length ? to : `${to}?at=start`, action: written < emails.length ? 'Write the emails' : 'Start the course',
      })
      continue
    }
    if (course.stoppedAt !== null) {
      const inside = countInside(db, course.id)
      list.push({
        tone: 'plain', title: `${course.name} is stopped`, to: `${to}?at=resume`, action: 'Resume the course',
        people: { count: inside, to: peopleIn(course.id) },
        text: `Since ${sayMoment(course.stoppedAt, workspaceOf(db).zone)} no emails go out. ${saySome(inside, 'person is', 'people are')} inside.`,
      })
    }
    const stopped = countStopped(db, course.id)
    if (stopped > 0) list.push({
      tone: 'trouble', title: `${saySome(stopped, 'person is', 'people are')} stopped in ${course.name}`,
      text: 'It repeated a hundred steps with no time passing. Change it and publish. They continue from where they are.',
      to: `/courses/${course.id}?part=people`, action: 'See the people',
      people: { count: stopped, to: `/courses/${course.id}?part=people` },
    })
    const unwritten = emptyEmailNotice(context, course, now)
    if (unwritten) list.push(unwritten)
    if (!dequal(course.draft, course.published)) {
      list.push({
        tone: 'plain', title: `${course.name} has changes that are not published`,
        text: 'Readers get the published version until you publish.', to: `${to}?at=publish`,
        action: 'Review and publish',
      })
    }
  }
  return list
}

const peopleIn = (courseId: number) => `/subscribers?course=${courseId}&is=inside`

/** A running course may have emails still to be written: says who is nearest to the first of them, and when it is wanted. */
function emptyEmailNotice(context: WorkspaceContext, course: CourseRow, now: Instant): Notice | null {
  const { db } = context
  const empty = emailsOf(course.published!).find(step => !isWritten(step.content))
  if (!empty) return null
  const { zone } = workspaceOf(db)
  const to = `/courses/${course.id}`
  const open = cohortsOfCourse(db, course.id, dateFieldsRunning(db))
  const standing = open.filter(row => row.stepId === empty.id)
  if (standing.length === 0) {
    const moves = open.flatMap(row => row.dueAt ?? [])
    return { tone: 'plain', title: `${course.name} has an email still to write`, text: moves.length === 0
      ? 'Nobody will reach it soon.'
      : `The first reader comes to it in ${sayLength(Math.max(0, Math.min(...moves) - now))} at the soonest.`,
      to, action: 'Write the email' }
  }
  const program = programOf(course.published!, () => 0)
  const { step } = placesOf(program).get(empty.id)!
  const waiting = standing.reduce((sum, row) => sum + row.people, 0)
  const wantedAt = Math.min(...standing.map(row =>
    planStep(program, step, row, { ...workspaceFacts(db), personZone: row.personZone, dateOf: row.dateOf }).plannedAt))
  const isLate = wantedAt <= now
  const moment = sayMoment(wantedAt, zone)
  return {
    tone: isLate ? 'trouble' : 'plain',
    title: 'People wait for an email that is not written',
    text: `${course.name}: write “${nameOfMessage(empty.content) || 'the next email'}” and publish it. ${isLate
      ? `It should have gone ${moment}`
      : `The first of them is to get it ${moment}, in ${sayLength(wantedAt - now)}`}.`,
    to, action: 'Write the email', by: wantedAt, people: { count: waiting, to: `${to}?part=people` },
  }
}
