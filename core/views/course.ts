/** A course with its numbers. */
import type { Changes, PublishEffect } from '#core/sequence/changes'
import type { CourseDraft, DraftStep, Missing } from '#core/sequence/draft'
import type { Outline } from '#core/sequence/outline'
import type { WeekHours } from '#core/time/hours'
import type { Instant, LocalDate } from '#core/time/zone'

/** People, not fetches: who stands before a step, who was sent it, and what those did. */
export interface StepNumbers {
  stepId: string, waiting: number, sent: number, heldBack: number, opened: number, clicked: number, unsubscribed: number,
}

export type StepNumber = Exclude<keyof StepNumbers, 'stepId'>

/** What is not finished. */
export interface Outlook {
  missing: Missing[]
  emptyEmails: number
}

/** Whom starting would reach. */
export type StartOutlook =
  /**
   * Everybody who has what starts it, and how many of those may come in, can get mail and have not been inside. `byJoining`: where those
   * who were looked at would stand by the date they got it; null for who would be past its end.
   */
  | { kind: 'now', total: number, waiting: number, looked: number, byJoining: { stepId: string | null, people: number }[] }
  /** People who have the date by which they come in. */
  | { kind: 'by-date', fieldId: number, people: number }

/** What publishing would change, and for how many. */
export interface ChangeOutlook extends Changes {
  inside: number
  effects: PublishEffect[]
  /** Steps behind the old end: the first of them, and how many have come to that end. */
  newEnd: { stepId: string, finished: number } | null
}

/** People, not visits: who comes in twice counts once in each. */
export interface CourseCounts { inside: number, started: number, finished: number, left: number }

export type CourseNumber = keyof CourseCounts

/** What a new course begins as: one empty email, several of an outline, or a finished course. */
export type CourseBeginning = { kind: 'empty' } | { kind: 'outline', outline: Outline } | { kind: 'template', key: string }

/** Something set elsewhere that lets people in, by itself or by what it gives, or takes them out. */
export interface EntryOrExit { kind: 'page' | 'offer' | 'link' | 'rule' | 'course', id: number, name: string }
/** A way into a course whose people do not join its list, and get none of its emails. */
export interface Astray { by: {
  kind: 'page' | 'offer' | 'waiting-list', id: number, name: string,
}, course: { id: number, name: string }, list: { id: number, name: string } }

export interface EntriesAndExits { in: EntryOrExit[], out: EntryOrExit[] }

export interface CourseView {
  id: number
  name: string
  status: 'draft' | 'running'
  /** Since when it is stopped as a whole; null if it is not. */
  stoppedAt: Instant | null
  /** Came to its door since, and will come in once it goes on. */
  waitingToEnter: number
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
  /** In live: emails with links to addresses that are kept for examples, as templates have them. */
  examples: { stepId: string, urls: string[] }[]
  /** What lets people in and takes them out, set elsewhere. */
  entriesAndExits: EntriesAndExits
  /** Published ways in whose people would not be on its list. */
  astray: Astray[]
  /** Who will come in at a time of their own. */
  scheduledEntries: { people: number, nextAt: Instant | null, lastAt: Instant | null }
  outlook: Outlook
  /** Sending hours of the workspace. */
  hours: WeekHours
  /** By which its steps can go. */
  dateFields: { id: number, name: string }[]
}

/** Who stands where, since when, and what they wait for: a moment, what a hold waits for, or nothing while they stand still. */
export interface CourseStanding {
  inside: number
  rows: {
    id: number, personId: number, name: string, stepId: string | null, sinceAt: Instant, dueAt: Instant | null, held: boolean,
    stillSince: Instant | null, pausedUntilAt: Instant | null, occursOn: LocalDate | null,
  }[]
}

/** A finished course, there to be copied. */
export interface CourseTemplateLine { key: string, name: string, reason: string, draft: CourseDraft }

/** A course that was brought in: what was made for it, and what was left out because it is not there. */
export interface BroughtCourse { id: number, name: string, made: string[], lost: string[] }

export interface CourseLine extends CourseCounts {
  id: number, name: string, status: CourseView['status'], emails: number, empty: number, startedAt: Instant | null,
  stoppedAt: Instant | null,
  /** The subjects of its emails, as they are written now. */
  subjects: string[]
}

/** Where people stand in a course, and what goes out. `day` counts from joining; null where a step goes by a date, or is passed over. */
export interface CourseAhead {
  id: number
  steps: { id: string, kind: DraftStep['kind'], day: number | null, people: number, written: boolean }[]
  /** Emails of the coming seven days. */
  comingWeek: number
  next: { at: Instant, people: number, title: string } | null
}

/** What becomes of those who wait outside as a course starts. */
export type Include = { kind: 'none' } | { kind: 'now' } | { kind: 'spread', days: number } | { kind: 'by-joining' }

/** `course`: whoever comes in joins its list, by whichever way. */
export type Mender = Astray['by']['kind'] | 'course'
