/** Every other screen of the people part and what stands around it, the first time it is asked for and again. */
import { allCourses } from '#data/courses'
import type { House } from '#usecases/house'
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

export function measureScreens(house: House): string[] {
  const courseId = allCourses(house.db)[0]!.id
  const screens: Record<string, () => unknown> = {
    'the rail': () => railView(house),
    'the wall': () => frameView(house),
    'Today': () => todayView(house),
    'Tags': () => tagLines(house),
    'Lists': () => listLines(house),
    'Segments': () => segmentLines(house),
    'what a condition can be made of': () => conditionParts(house),
    'a subscriber': () => subscriberView(house, 1000),
    'Pages': () => pageLines(house),
    'Where people come from': () => sourcesView(house, { months: 12 }),
    'Courses': () => courseLines(house),
    'a course': () => courseView(house, courseId),
  }
  return Object.entries(screens).map(([name, ask]) => `| ${name} | ${ms(timed(ask).ms)} | ${ms(median(Array.from({ length: 5 }, () => timed(ask).ms)))} |`)
}
