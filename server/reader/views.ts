/** What can take long to count, and is therefore worked out in a thread of its own. */
import type { WorkspaceContext } from '#usecases/context'
import { changeOutlook, startOutlook } from '#usecases/courses/publish'
import { againReach, broadcastLines } from '#usecases/views/broadcasts'
import { broadcastReach } from '#usecases/views/broadcastReach'
import { broadcastResults, broadcastSplit, broadcastWho } from '#usecases/views/broadcastResults'
import { audienceMore, audienceView } from '#usecases/views/audience'
import { calendarView } from '#usecases/views/calendar'
import { conditionParts } from '#usecases/views/conditionParts'
import { courseLines, courseView } from '#usecases/views/course'
import { courseNumbers, whoBehind } from '#usecases/views/courseNumbers'
import { courseStanding } from '#usecases/views/courseStanding'
import { endingView } from '#usecases/views/ending'
import { engineView } from '#usecases/views/engine'
import { answersView } from '#usecases/views/answers'
import { emailLibrary } from '#usecases/views/emailLibrary'
import { pastSubjects } from '#usecases/views/pastSubjects'
import { emailVersions } from '#usecases/views/emailVersions'
import { lacking } from '#usecases/views/lacking'
import { howMany } from '#usecases/views/howMany'
import { idsToExport } from '#usecases/views/exportPeople'
import { frameView, railView } from '#usecases/views/frame'
import { importPlan } from '#usecases/views/importPlan'
import { listLines, tagLines } from '#usecases/views/listsAndTags'
import { linkLines, linkView } from '#usecases/views/links'
import { offerLines } from '#usecases/views/offers'
import { offerSales } from '#usecases/views/offerSales'
import { pageResults } from '#usecases/views/pageResults'
import { pageLines } from '#usecases/views/pages'
import { hooksView } from '#usecases/know/hooks'
import { deskView } from '#usecases/know/todos'
import { ruleLines, ruleParts, ruleView } from '#usecases/views/rules'
import { checkKept, rehearse, type RehearsalSandbox } from '#usecases/practice/rehearse'
import { sourcesView } from '#usecases/views/sources'
import { subscribersCount, subscribersView } from '#usecases/views/subscribers'
import { coursesAhead } from '#usecases/views/coursesAhead'
import { weeksView } from '#usecases/views/weeks'
import type { WeeklyKind } from '#core/views/weeks'
import { findAnything } from '#usecases/views/find'
import { todayView } from '#usecases/views/today'

export const SLOW_VIEWS = {
  subscribers: subscribersView,
  subscribersCount,
  audience: audienceView,
  audienceMore,
  idsToExport,
  importPlan,
  howMany,
  emailVersions,
  emailLibrary,
  pastSubjects,
  answers: answersView,
  lacking,
  frame: frameView,
  rail: railView,
  weeks: (context: WorkspaceContext, kind: WeeklyKind) => weeksView(context, kind),
  coursesAhead: (context: WorkspaceContext) => coursesAhead(context),
  find: (context: WorkspaceContext, text: string) => findAnything(context, text),
  today: (context: WorkspaceContext, hasLive: boolean) => todayView(context, Date.now(), hasLive),
  broadcasts: broadcastLines,
  broadcastReach,
  againReach,
  broadcastResults,
  broadcastSplit,
  broadcastWho,
  courses: courseLines,
  course: courseView,
  courseStanding,
  courseNumbers,
  whoBehind,
  calendar: calendarView,
  ending: endingView,
  engine: (context: WorkspaceContext) => engineView(context, Date.now()),
  rehearsal: rehearse,
  keptRehearsals: (context: WorkspaceContext, courseId: number, sandbox: RehearsalSandbox) => checkKept(context, courseId, sandbox),
  startOutlook,
  changeOutlook,
  pages: pageLines,
  pageResults,
  lists: listLines,
  tags: tagLines,
  conditionParts,
  rules: ruleLines,
  desk: deskView,
  hooks: hooksView,
  links: linkLines,
  link: linkView,
  rule: ruleView,
  ruleParts,
  sources: sourcesView,
  offers: offerLines,
  offerSales,
} satisfies Record<string, (context: WorkspaceContext, input: never, sandbox: RehearsalSandbox) => unknown>

export type SlowView = keyof typeof SLOW_VIEWS

export interface Question { mode: WorkspaceContext['mode'], view: SlowView, input: unknown }
