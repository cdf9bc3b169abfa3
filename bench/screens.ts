/** Every other screen of the people part and what stands around it, the first time it is asked for and again. */
import { allCourses } from '#data/courses'
import type { WorkspaceContext } from '#usecases/context'
import { conditionParts } from '#usecases/views/conditionParts'
import { courseLines, courseView } from '#usecases/views/course'
import { frameView, railView } from '#usecases/views/frame'
import { listLines, tagLines } from '#usecases/views/listsAndTags'
import { pageLines } from '#usecases/views/pages'
import { segmentLines } from '#usecases/views/segments'
import { sourcesView } from '#usecases/views/sources'
import { subscriberView } from '#usecases/views/subscriber'
import { todayView } from '#usecases/views/today'
import { median, ms, timed } from './measure'

export function measureScreens(context: WorkspaceContext): string[] {
  const courseId = allCourses(context.db)[0]!.id
  const screens: Record<string, () => unknown> = {
    'the rail': () => railView(context),
    'the wall': () => frameView(context),
    'Today': () => todayView(context),
    'Tags': () => tagLines(context),
    'Lists': () => listLines(context),
    'Segments': () => segmentLines(context),
    'what a condition can be made of': () => conditionParts(context),
    'a subscriber': () => subscriberView(context, 1000),
    'Pages': () => pageLines(context),
    'Where people come from': () => sourcesView(context, { months: 12 }),
    'Courses': () => courseLines(context),
    'a course': () => courseView(context, courseId),
  }
  return Object.entries(screens)
    .map(([name, ask]) => `| ${name} | ${ms(timed(ask).ms)} | ${ms(median(Array.from({ length: 5 }, () => timed(ask).ms)))} |`)
}
