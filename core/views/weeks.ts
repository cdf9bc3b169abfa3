/** What happened with each thing of a kind in the last twelve weeks: the small charts of lists. */
import type { LocalDate } from '../time/zone'

export const WEEKS = 12

/** What is counted: opt-ins and visits of a page, sales, emails of a course, people who came into a segment, clicks, actings of a rule. */
export const WEEKLY_KINDS = ['page', 'visit', 'offer', 'course', 'segment', 'link', 'rule'] as const
export type WeeklyKind = typeof WEEKLY_KINDS[number]

/** Weeks of seven days of the workspace, the last of them today. `firstDays`: the day each begins with. What has none is left out. */
export interface WeeksView { firstDays: LocalDate[], rows: { id: number, counts: number[] }[] }
