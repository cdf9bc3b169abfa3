/** A course with its numbers. */
import type { CourseDraft, Missing } from '#core/sequence/draft'
import type { WeekHours } from '#core/time/hours'
import type { Instant } from '#core/time/zone'

/** People, not fetches: who stands before a step, who was sent it, and what those did. */
export interface StepNumbers { stepId: string, waiting: number, sent: number, heldBack: number, opened: number, clicked: number, unsubscribed: number }

export type StepNumber = Exclude<keyof StepNumbers, 'stepId'>

/** What starting or publishing would do, said before it is done. */
export interface Outlook {
  missing: Missing[]
  emptyEmails: number
  /** People who have one of the tags that start the course, and how many of them can get mail. */
  outsideDoor: { total: number, canGetMail: number }
  /** Only for a running course: who stands inside, and how many would be sent something at once by the change. */
  inside: number
  atOnce: number
}

/** People, not visits: who comes in twice counts once in each. */
export interface CourseCounts { inside: number, started: number, finished: number, left: number }

export type CourseNumber = keyof CourseCounts

export interface CourseView {
  id: number
  name: string
  status: 'draft' | 'running'
  draft: CourseDraft
  /** Which state of name and draft this is; saving sends it along. */
  revision: string
  changedAt: Instant
  /** True if the draft of a running course says something else than what runs. */
  hasChanges: boolean
  counts: CourseCounts
  numbers: StepNumbers[]
  /** How many people took each way of a fork or hold. */
  ways: { stepId: string, wayId: string, people: number }[]
  /** Offers that an email's links lead to, by the id of its step; only of emails that lead to any. */
  sells: { stepId: string, offers: { id: number, name: string }[] }[]
  /** Offers that let buyers in, by themselves or by a tag that starts the course; and those that take them out. */
  offers: { in: { id: number, name: string }[], out: { id: number, name: string }[] }
  outlook: Outlook
  /** Sending hours of the workspace. */
  hours: WeekHours
  /** By which its steps can go. */
  dateFields: { id: number, name: string }[]
}

export interface CourseLine extends CourseCounts { id: number, name: string, status: CourseView['status'], emails: number, empty: number, startedAt: Instant | null }
