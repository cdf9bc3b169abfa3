/** Where people stand in each course, and what of it goes out next: beside the list of courses. */
import { datesFor } from '#core/sequence/dates'
import { programOf, type DraftStep } from '#core/sequence/draft'
import { allSteps } from '#core/sequence/program'
import { isWritten } from '#core/message/blocks'
import { dayNumber, localOf, MINUTE } from '#core/time/zone'
import type { CourseAhead } from '#core/views/course'
import { readTogether } from '#data/connection'
import { allCourses, type CourseRow } from '#data/courses'
import { peopleByStep } from '#data/enrolments'
import { sendingHours, workspaceOf } from '#data/workspace'
import type { WorkspaceContext } from '../context'
import { nameOfSend } from '../inner/sendNames'
import { forecast } from './forecast'

export function coursesAhead(context: WorkspaceContext): CourseAhead[] {
  const { db } = context
  return readTogether(db, () => {
    const coming = forecast(context, MINUTE).filter(({ kind }) => kind === 'course')
    const standing = peopleByStep(db)
    return allCourses(db).map((course) => {
      const own = coming.filter(({ ownerId }) => ownerId === course.id)
      const [next] = own
      return {
        id: course.id, steps: stepsOf(context, course, standing.get(course.id) ?? new Map()),
        comingWeek: own.reduce((sum, { people }) => sum + people, 0),
        next: next ? { at: next.at, people: next.people, title: nameOfSend(db, next).title } : null,
      }
    })
  })
}

/** The course's own row, as it runs, with the days of somebody who joins now; whoever stands in a way stands at its fork or hold. */
function stepsOf({ db, clock }: WorkspaceContext, course: CourseRow, standing: ReadonlyMap<string, number>): CourseAhead['steps'] {
  const draft = course.published ?? course.draft
  const program = programOf(draft, () => 0)
  const { zone } = workspaceOf(db)
  const now = clock.now()
  const today = dayNumber(localOf(now, zone).date)
  const facts = { workspaceZone: zone, personZone: null, hours: sendingHours(db), dateOf: () => localOf(now, zone).date }
  const dates = new Map(datesFor(program, now, facts).map(row => [row.stepId, row]))
  return draft.steps.map((step) => {
    const at = dates.get(step.id)?.plannedAt ?? null
    const people = allSteps<DraftStep>([step]).reduce((sum, { id }) => sum + (standing.get(id) ?? 0), 0)
    return {
      id: step.id, kind: step.kind, people, day: at === null ? null : dayNumber(localOf(at, zone).date) - today,
      written: step.kind !== 'email' || isWritten(step.content),
    }
  })
}
