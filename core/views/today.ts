/** What Today shows. */
import type { ToldEvent } from '#core/events'
import type { Rate } from '#core/stats/rate'
import type { Instant } from '#core/time/zone'
import type { NamedSend } from './frame'

export interface Notice {
  title: string
  text: string
  /** Where to do something about it. */
  to: string
  tone: 'plain' | 'trouble'
}

/** The way from an empty workspace to a course that somebody gets. */
export interface FirstSteps { sender: boolean, page: boolean, course: boolean, tried: boolean }

export interface Figures {
  arrivedSinceYesterday: number
  active: number
  arrived28: number
  sent28: number
  opened28: Rate
  clicked28: Rate
}

export interface TodayView {
  now: Instant
  /** Each part is null where it could not be worked out: the others stand all the same. */
  figures: Figures | null
  goingOut: NamedSend[] | null
  needsAttention: Notice[]
  justHappened: (ToldEvent & { person: { id: number, name: string } | null })[] | null
  /** What of the first useful things is done; null once all of them are. */
  begin: FirstSteps | null
}
