/** What happened with each thing of a kind in the last twelve weeks: the small charts of lists. */
import { DAY, type Instant } from '../time/zone'
import type { ThingKind } from '../things'

export const WEEKS = 12
export const WEEK_MS = 7 * DAY

/** Whose lists have them. */
export const WEEKLY_KINDS = ['page', 'offer', 'course', 'segment', 'link', 'rule'] as const satisfies ThingKind[]
export type WeeklyKind = typeof WEEKLY_KINDS[number]

/** Weeks of seven days; the last one ends now. Things with nothing in them are left out. */
export interface WeeksView { from: Instant, rows: { id: number, counts: number[] }[] }
