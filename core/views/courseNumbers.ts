/** What came of a course. */
import type { Instant } from '#core/time/zone'

/** Where a journey has come to. */
export type JourneyEnd = 'inside' | 'finished' | 'left'

/** People who went on from one place to the next: from an email (null: from the door) to an email, or to where they are now. */
export interface FlowLink { from: string | null, to: { stepId: string } | { end: JourneyEnd }, people: number }

export interface CohortRow {
  from: Instant, to: Instant, joined: number, inside: number, finished: number, left: number, bought: number, sent: Record<string, number>,
}

/** Whom a number counts: who took a way, who joined in a week, who went no further than an email, who bought after it. */
export type WhoAsked = { way: { stepId: string, wayId: string } }
  | { week: { from: Instant, to: Instant }, is: 'joined' | 'inside' | 'finished' | 'left' | 'bought' }
  | { after: string | null, end: JourneyEnd } | { bought: string, clickMs: number }

export interface CourseNumbersView {
  /** Emails in reading order; those that were taken out and had been sent stand at the end. */
  emails: { stepId: string, title: string, gone: boolean, bought: number }[]
  flow: FlowLink[]
  cohorts: CohortRow[]
  /** Somebody who buys within so many days of following a link counts with its email. */
  clickDays: number
}

export interface Who { personId: number, name: string, at: Instant }
