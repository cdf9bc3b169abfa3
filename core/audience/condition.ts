/**
 * A condition about people: a tree of *all of*, *any of*, *none of* over leaves.
 *
 * Written meanings: *all of* nothing is everybody, *any of* nothing is nobody,
 * *none of* nothing is everybody. What is not known about someone is not true
 * of them: a leaf about a missing fact does not hold. Facts never lie later
 * than now.
 */
import type { WhichSend } from '#core/sending/kinds'
import type { ConsentRule, CountryCode } from '#core/people/country'
import type { SourceKey } from '#core/page/touch'
import type { FieldValue } from '#core/people/field'
import type { Status } from '#core/people/status'
import type { ScoreRule } from '#core/score/score'
import type { Instant, LocalDate, ZoneName } from '#core/time/zone'
import { addDays, DAY, isDate } from '#core/time/zone'

/** A stretch of time. The last N days are N times 24 hours up to now, both edges included. */
export type Stretch =
  | { kind: 'last-days', days: number }
  | { kind: 'before', at: Instant }
  | { kind: 'since', at: Instant }

/** Which emails: all, those of one course, or one step of it. */
export type WhichEmail = WhichSend | null

/** What became of an email, or what its reader did with it. Opens are reader opens; *maybe opened*: as programs open it, too. */
export const EMAIL_FATES = [
  'sent', 'opened', 'maybe-opened', 'clicked', 'left-by', 'held-back', 'given-up', 'waiting-again', 'maybe-twice',
] as const
export type EmailFate = typeof EMAIL_FATES[number]

/** What is asked of a field. Texts are compared without case; a test that does not fit the field's kind never holds. */
export type FieldTest =
  | { is: 'known' }
  | { is: 'equal' | 'contains' | 'begins', text: string }
  | { is: 'number', sign: '<' | '<=' | '=' | '>=' | '>', number: number }
  | { is: 'yes', yes: boolean }
  /** Choices, countries or zones. */
  | { is: 'one-of', values: string[] }
  | { is: 'on' | 'before' | 'after', date: LocalDate }
  /** Whole calendar days of the workspace's zone, today included: the last or next `days` of them besides. */
  | { is: 'last-days' | 'next-days', days: number }
  /**
   * A date that lies so many calendar days before today, or ahead if negative; `yearly`: that it or one of its returns does. 29 February is
   * kept on 28 February in common years.
   */
  | { is: 'day', days: number, yearly: boolean }

/**
 * The stretch is that of pressing, of the opt-in's beginning to count, or of fetching the promised file for the first time. Without a word:
 * pressed.
 */
export const OPT_IN_FATES = ['pressed', 'counts', 'not-confirmed', 'fetched'] as const
export type OptInFate = typeof OPT_IN_FATES[number]

/** What became of a purchase, or of going to pay. The stretch is that of buying, or of going to pay. */
export const PURCHASE_FATES = ['bought', 'owned', 'refunded', 'disputed', 'refused', 'over', 'began', 'abandoned'] as const
export type PurchaseFate = typeof PURCHASE_FATES[number]

/** In the place of a result page's id: answers that led to none of them. */
export const NO_RESULT = 'none'

export type Leaf =
  | { kind: 'status', is: Status[] }
  /** Active, and with the consent their country needs: whom the workspace may send to at all. */
  | { kind: 'may-be-mailed' }
  /** Null: any list; *never joined* then means none ever. */
  | { kind: 'list', listId: number | null, is: 'joined' | 'left' | 'never-joined' }
  /** `since`: only if it was given in that stretch. */
  | { kind: 'tag', tagId: number, since: Stretch | null }
  | { kind: 'field', fieldId: number, test: FieldTest }
  /** `unknown`: people whose country is not known, too. */
  | { kind: 'country', is: CountryCode[], unknown: boolean }
  | { kind: 'zone', is: ZoneName[] }
  /** On record at all; or missing although their country needs it. */
  | { kind: 'consent', is: 'on-record' | 'missing' }
  | { kind: 'source', is: string }
  | { kind: 'arrived', when: Stretch }
  /**
   * Pressed the button of this page, however often, and what came of it; with a touch, only brought there by it; with a result, only by
   * answers that led to that page.
   */
  | { kind: 'opted-in', pageId: number, within: Stretch | null, touchId?: number | null, did?: OptInFate, resultId?: string | null }
  /** Came by a page of ours, and that is what brought them the first time; or what brought them to their latest opt-in. */
  | { kind: 'brought', by: 'first' | 'latest', source: SourceKey }
  /** At least `times` different emails; each counts if it was done to it in the stretch. `url`: only for *clicked*, only this link. */
  | { kind: 'email', fate: EmailFate, which: WhichEmail, within: Stretch | null, times: number, url: string | null }
  /** Their last reader open or click, of any email, lies in that stretch; or their last uncertain open does. */
  | { kind: 'last-read', by: 'reader' | 'uncertain', within: Stretch }
  /** `stepId`: only for *inside*, those who stand before this step. */
  | { kind: 'course', courseId: number, is: 'inside' | 'finished' | 'left' | 'ever' | 'never', stepId: string | null }
  /** At least `times` purchases of this offer, or of any. */
  | { kind: 'purchase', fate: PurchaseFate, offerId: number | null, within: Stretch | null, times: number }
  /** Paid in all, minus refunds, in minor units of this currency: at least so much. For this offer, or for any. */
  | { kind: 'spent', currency: string, atLeast: number, offerId: number | null }
  /** Wants to hear no more of this offer. */
  | { kind: 'no-more', offerId: number }
  /** Waits to hear that it can be bought. */
  | { kind: 'waits', offerId: number }
  /** Followed this link of the library, in whichever email, at least so many times (1 to 1,000). */
  | { kind: 'followed', linkId: number, within: Stretch | null, times: number }
  /** This house rule acted on them, whatever came of it. */
  | { kind: 'rule-acted', ruleId: number, within: Stretch | null }
  /** So many points by now, or more: 1 to 10,000. */
  | { kind: 'score', atLeast: number }
  | { kind: 'segment', segmentId: number }
  /** A stable share of people, in hundredths of a percent, 0 to 10,000; another `salt` (0 to 9,999) picks others. */
  | { kind: 'sample', hundredths: number, salt: number }

export interface Group { kind: 'all' | 'any' | 'none', of: Condition[] }
export type Condition = Group | Leaf

/** What a condition is read against. */
export interface Moment {
  now: Instant
  /** The workspace's: what is a day for a field with a date. */
  zone: ZoneName
  /** The calendar day of `now` there. */
  today: LocalDate
  consent: ConsentRule
  /** How points lose their worth, and what brought them. */
  score: Pick<ScoreRule, 'halfLifeDays' | 'points'>
  /** Conditions of the saved segments, which may use each other but never in a circle. */
  segments: ReadonlyMap<number, Condition>
}

export const EVERYBODY: Condition = { kind: 'all', of: [] }
export const NOBODY: Condition = { kind: 'any', of: [] }

/** Groups within groups, the outermost counted. */
export const DEEPEST = 4

export const isGroup = (condition: Condition): condition is Group =>
  condition.kind === 'all' || condition.kind === 'any' || condition.kind === 'none'

/** Every leaf of a tree, in reading order; leaves of the segments it uses are not among them. */
export function leavesOf(condition: Condition): Leaf[] {
  return isGroup(condition) ? condition.of.flatMap(leavesOf) : [condition]
}

/** How many groups lie within each other. */
export function depthOf(condition: Condition): number {
  return isGroup(condition) ? 1 + Math.max(0, ...condition.of.map(depthOf)) : 0
}

/** A stretch's first and last instant, both included; null where it is open. */
export function edgesOf(stretch: Stretch, now: Instant): { from: Instant | null, to: Instant | null } {
  switch (stretch.kind) {
    case 'last-days':
      return { from: now - stretch.days * DAY, to: null }
    case 'before':
      return { from: null, to: stretch.at - 1 }
    case 'since':
      return { from: stretch.at, to: null }
  }
}

/** First and last calendar day that a test of dates takes, both included; null where it is open. */
export function datesOf(
  test: Extract<FieldTest, { date: LocalDate } | { is: 'last-days' | 'next-days' }>, today: LocalDate,
): { from: LocalDate | null, to: LocalDate | null } {
  switch (test.is) {
    case 'on':
      return { from: test.date, to: test.date }
    case 'before':
      return { from: null, to: addDays(test.date, -1) }
    case 'after':
      return { from: addDays(test.date, 1), to: null }
    case 'last-days':
      return { from: addDays(today, -test.days), to: today }
    case 'next-days':
      return { from: today, to: addDays(today, test.days) }
  }
}

/**
 * The dates whose return, moved by the test's days, is today: the day itself, and, where every year counts, the ends
 * (month and day) that a date of an earlier year may have.
 */
export function returnsOf({ days, yearly }: Extract<FieldTest, { is: 'day' }>, today: LocalDate): { date: LocalDate, ends: string[] } {
  const date = addDays(today, -days)
  const end = date.slice(5)
  // In a common year 28 February is also the day of who was born on the 29th.
  return { date, ends: !yearly ? [] : end === '02-28' && !isDate(`${date.slice(0, 4)}-02-29`) ? [end, '02-29'] : [end] }
}

/** Letters compared without case, the same in memory and in the database (function `fold` of data/). */
export const fold = (text: FieldValue): string => String(text).normalize('NFC').toLowerCase()

/** Steps through everybody evenly: 7,919 shares no factor with 10,000. Small enough for whole numbers in every engine. */
export const SAMPLE = { wrap: 1_000_003, stride: 7919, saltStride: 104_729, buckets: 10_000 } as const
