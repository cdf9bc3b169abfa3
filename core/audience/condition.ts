/**
 * A condition about people: a tree of *all of*, *any of*, *none of* over leaves.
 *
 * Written meanings: *all of* nothing is everybody, *any of* nothing is nobody,
 * *none of* nothing is everybody. What is not known about someone is not true
 * of them: a leaf about a missing fact does not hold.
 */
import type { Status } from '#core/people/status'
import type { Instant } from '#core/time/zone'
import { DAY } from '#core/time/zone'

/** A stretch of time. The last N days are N times 24 hours up to now, both edges included. */
export type Stretch =
  | { kind: 'last-days', days: number }
  | { kind: 'before', at: Instant }
  | { kind: 'since', at: Instant }

/** Which emails: all, those of one course, or one step of it. */
export type WhichEmail = { courseId: number, stepId: string | null } | null

/** What became of an email, or what its reader did with it. Opens are reader opens. */
export const EMAIL_FATES = ['sent', 'opened', 'clicked', 'left-by', 'held-back', 'given-up', 'waiting-again'] as const
export type EmailFate = typeof EMAIL_FATES[number]

export type Leaf =
  | { kind: 'status', is: Status[] }
  | { kind: 'list', listId: number, is: 'joined' | 'left' | 'never-joined' }
  /** `since`: only if it was given in that stretch. */
  | { kind: 'tag', tagId: number, since: Stretch | null }
  | { kind: 'source', is: string }
  | { kind: 'arrived', when: Stretch }
  /** Pressed the button of this page, however often. */
  | { kind: 'opted-in', pageId: number, within: Stretch | null }
  /** At least `times` different emails; each counts if it was done to it in the stretch. */
  | { kind: 'email', fate: EmailFate, which: WhichEmail, within: Stretch | null, times: number }
  /** A reader open or a click in that stretch, of any email. */
  | { kind: 'read', within: Stretch }
  /** `stepId`: only for *inside*, those who stand before this step. */
  | { kind: 'course', courseId: number, is: 'inside' | 'finished' | 'left' | 'never', stepId: string | null }
  /** A stable share of people, in hundredths of a percent, 0 to 10,000; another `salt` (0 to 9,999) picks others. */
  | { kind: 'sample', hundredths: number, salt: number }

export interface Group { kind: 'all' | 'any' | 'none', of: Condition[] }
export type Condition = Group | Leaf

export const EVERYBODY: Condition = { kind: 'all', of: [] }

export const isGroup = (condition: Condition): condition is Group => condition.kind === 'all' || condition.kind === 'any' || condition.kind === 'none'

/** First and last instant of a stretch, both included; null where it is open. */
export function edgesOf(stretch: Stretch, now: Instant): { from: Instant | null, to: Instant | null } {
  switch (stretch.kind) {
    case 'last-days':
      return { from: now - stretch.days * DAY, to: now }
    case 'before':
      return { from: null, to: stretch.at - 1 }
    case 'since':
      return { from: stretch.at, to: null }
  }
}

/** Steps through everybody evenly: 7,919 shares no factor with 10,000. Small enough for whole numbers in every engine. */
export const SAMPLE = { wrap: 1_000_003, stride: 7919, saltStride: 104_729, buckets: 10_000 } as const
