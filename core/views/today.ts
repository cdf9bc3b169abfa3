/** What Today shows. */
import type { ToldEvent } from '#core/events'
import type { Rate } from '#core/stats/rate'
import type { HeldView } from './engine'
import type { Instant } from '#core/time/zone'
import type { NamedSend } from './frame'

export interface Notice {
  title: string
  text: string
  /** Where to do something about it. */
  to: string
  /** What to do there: a verb and its object. */
  action: string
  tone: 'plain' | 'trouble'
  /** Whom it is about, where they can be seen. */
  people?: { count: number, to: string }
  /** Until when something can be done about it. */
  by?: Instant
}

export type SetupKey = 'sender' | 'list' | 'page' | 'course' | 'tried' | 'rehearsed' | 'live'

/** One of the first steps of a workspace, and the address of the control by which it is done. */
export interface SetupStep { key: SetupKey, done: boolean, to: string }

/** What happened on one day of the workspace’s zone. `at` is its beginning; opens and clicks are those of the emails sent on it. */
export interface DayOfToday {
  at: Instant, arrived: number, left: number, sent: number, opened: number, clicked: number
}

export interface Figures {
  arrivedSinceYesterday: number
  active: number
  arrived28: number
  sent28: number
  opened28: Rate
  clicked28: Rate
  left28: number
  /** The last 28 days, today included. */
  days: DayOfToday[]
}

export interface TodayView {
  held: HeldView | null
  now: Instant
  /** Each part is null where it could not be worked out: the others stand all the same. */
  figures: Figures | null
  goingOut: NamedSend[] | null
  /** The most urgent first. */
  needsAttention: Notice[]
  justHappened: (ToldEvent & { person: { id: number, name: string } | null })[] | null
  /** What of the first steps is done; null once all of them are, or once the list was put away. */
  setup: SetupStep[] | null
}
