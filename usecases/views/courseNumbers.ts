/** What came of a course: its flow, its joining weeks, what was bought; and the people behind each number. */
import { emailsOf, titleOfEmail } from '#core/sequence/draft'
import { addDays, DAY, instantOf, localOf } from '#core/time/zone'
import { weekdayOf } from '#core/time/when'
import type { CourseNumbersView, FlowLink, WhoAsked, Who } from '#core/views/courseNumbers'
import { readTogether, type Database } from '#data/connection'
import { findCourse, publishedDrafts, type CourseRow } from '#data/courses'
import { boughtBySteps, journeysOf, sentByWeeks, weeksOf, whoOf, type Week } from '#data/courseNumbers'
import { sellingOf } from '#data/selling'
import { workspaceOf } from '#data/workspace'
import type { WorkspaceContext } from '../context'
import { NotThere } from '../problem'

/** So many joining weeks are told, this one included. */
export const COHORT_WEEKS = 12

export function courseNumbers(context: WorkspaceContext, courseId: number): CourseNumbersView {
  const { db } = context
  return readTogether(db, () => {
    const course = findCourse(db, courseId)
    if (!course) throw new NotThere('This course no longer exists.')
    const journeys = journeysOf(db, courseId)
    const { clickDays } = sellingOf(db)
    const bought = boughtBySteps(db, courseId, clickDays * DAY)
    const order = emailsOf(course.draft).map(({ id }) => id)
    const gone = [...new Set(journeys.flatMap(({ done }) => done))].filter(id => !order.includes(id))
    const titles = titlesOf(db, course, gone)
    const weeks = weeksBefore(context)
    const sent = sentByWeeks(db, courseId, weeks)
    const told = new Map(weeksOf(db, courseId, weeks).map(row => [row.from, row]))
    return {
      emails: [...order, ...gone].map(stepId => ({
        stepId, title: titles.get(stepId) ?? 'an email that was taken out', gone: !order.includes(stepId), bought: bought.get(stepId) ?? 0,
      })),
      flow: flowOf(journeys),
      cohorts: weeks.filter(({ from }) => told.has(from)).map(week => ({
        ...week, ...told.get(week.from)!,
        sent: Object.fromEntries(sent.filter(({ from }) => from === week.from).map(({ stepId, people }) => [stepId, people])),
      })),
      clickDays,
    }
  })
}

/** As they are called by now; those that were taken out as they were called last. */
function titlesOf(db: Database, { id, draft }: Pick<CourseRow, 'id' | 'draft'>, gone: readonly string[]): Map<string, string> {
  const titles = new Map(emailsOf(draft).map(step => [step.id, titleOfEmail(step)]))
  if (gone.length === 0) return titles
  for (const old of publishedDrafts(db, id)) {
    for (const step of emailsOf(old)) if (!titles.has(step.id)) titles.set(step.id, titleOfEmail(step))
    if (gone.every(stepId => titles.has(stepId))) break
  }
  return titles
}

/** Weeks from Monday to Monday of the workspace's calendar, the latest first. */
function weeksBefore({ db, clock }: WorkspaceContext): Week[] {
  const { zone } = workspaceOf(db)
  const { date } = localOf(clock.now(), zone)
  const monday = addDays(date, 1 - weekdayOf(date))
  return Array.from({
    length: COHORT_WEEKS,
  }, (_, n) => ({ from: instantOf(addDays(monday, -7 * n), '00:00', zone), to: instantOf(addDays(monday, 7 - 7 * n), '00:00', zone) }))
}

/** Each journey leads from the door by its emails to where it has come to. */
function flowOf(journeys: ReturnType<typeof journeysOf>): FlowLink[] {
  const links = new Map<string, FlowLink>()
  const add = (from: string | null, to: FlowLink['to'], people: number) => {
    const key = JSON.stringify([from, to])
    const link = links.get(key)
    if (link) link.people += people
    else links.set(key, { from, to, people })
  }
  for (const { done, end, people } of journeys) {
    for (const [n, stepId] of done.entries()) add(done[n - 1] ?? null, { stepId }, people)
    add(done.at(-1) ?? null, { end }, people)
  }
  return [...links.values()]
}

const PAGE = 100

/** The people behind one of these numbers; `more` says that there are others behind them. */
export function whoBehind(
  { db }: WorkspaceContext, { courseId, asked, from }: { courseId: number, asked: WhoAsked, from: number },
): { people: Who[], more: boolean } {
  return readTogether(db, () => {
    const people = whoOf(db, courseId, asked, PAGE + 1, from)
    return { people: people.slice(0, PAGE), more: people.length > PAGE }
  })
}
