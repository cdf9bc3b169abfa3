/** Subscribers: the table of all, and everything about one. */
import type { SendOf } from '#core/sending/kinds'
import type { WaitsForTurn } from '#core/sending/reasons'
import type { Condition } from '#core/audience/condition'
import type { ToldEvent } from '#core/events'
import type { FieldValue } from '#core/people/field'
import type { PurchaseOfPerson } from './offers'
import type { Status } from '#core/people/status'
import type { Instant, LocalDate } from '#core/time/zone'
import type { CourseNumber } from './course'
import type { ScoreOfPerson } from './score'

export interface Person {
  id: number
  address: string
  firstName: string
  status: Status
  /** IANA name; null where the browser never told. */
  zone: string | null
  /** ISO 3166-1 code; null where nobody told. */
  country: string | null
  source: string
  createdAt: Instant
  /** When consent was last recorded; null if it never was. */
  consentAt: Instant | null
}

export interface ListedPerson extends Person {
  /** Names of their tags, of the lists they are on, and of those they were on. */
  tags: string[]
  lists: string[]
  listsLeft: string[]
  /** Their last reader open or click. */
  readAt: Instant | null
  /** By the number of the field. */
  fields: Record<string, FieldValue>
}

export const PEOPLE_ORDERS = ['newest', 'oldest', 'address', 'name'] as const
export type PeopleOrder = typeof PEOPLE_ORDERS[number]

export interface SubscribersView {
  rows: ListedPerson[]
  pageSize: number
  /** What the table is narrowed to, besides the search; the whole tree, to be changed. */
  condition: Condition
  /** The same in words; empty if to nothing. */
  narrowedTo: string
  /** Where it is narrowed to people of whom an email was held back: why, by their numbers, the latest of them. Null elsewhere. */
  heldBack: Record<number, string> | null
}

/** What takes longer than a page of the table. */
export interface SubscribersCount {
  /** People the table is narrowed to. */
  total: number
  /** Everybody, by status. */
  counts: Record<Status, number>
}

export interface CourseOfPerson {
  id: number
  name: string
  /** False once it was deleted. */
  isThere: boolean
  /** Its owner has stopped it as a whole. */
  stopped: boolean
  status: 'open' | 'finished' | 'left'
  joinedAt: Instant
  endedAt: Instant | null
  nextTitle: string | null
  nextAt: Instant | null
}

/** `of`: what it comes of. */
export interface EmailOfPerson extends SendOf {
  id: number, title: string, of: string, listName: string, plannedAt: Instant,
  status: string, reason: string | null, handedOverAt: Instant | null, openedAt: Instant | null, clickedAt: Instant | null,
  /** It waits for its turn, later than it was planned. */
  turn: { at: Instant, why: WaitsForTurn } | null,
}

/** Given on a page of ours, or with an origin in words. */
export interface ToldConsent {
  wording: string, at: Instant, confirmedAt: Instant | null, ip: string | null, zone: string | null, origin: string,
  pageName: string | null, pageVersion: number | null,
}

export interface SubscriberView {
  person: Person
  /** What emails call them; empty while their name was only typed into a form. */
  nameInMail: string
  /** Since when our mail server has been unable to take their address at all; null if it can. */
  unreachableSince: Instant | null
  /** What brought them to a page of ours, in words: the first time, and the latest. Null for who never opted in since it is kept. */
  brought: { first: string, latest: string } | null
  /** The reader who passed a page on to them. */
  passedBy: { id: number, name: string } | null
  /** Latest first. */
  formerAddresses: { address: string, untilAt: Instant }[]
  /** Emails one can ask about: all that run or are written, by course. */
  askable: { courseId: number, courseName: string, stepId: string, title: string }[]
  /** `eventId` of what put them there. */
  lists: { id: number, name: string, joinedAt: Instant, leftAt: Instant | null, eventId: number }[]
  tags: { id: number, name: string, colour: string | null, sinceAt: Instant, expiresAt: Instant | null, eventId: number }[]
  fields: { fieldId: number, value: FieldValue }[]
  consents: ToldConsent[]
  /** The latest first. */
  purchases: PurchaseOfPerson[]
  /** Offers they want to hear no more of. */
  noMore: { offerId: number, name: string, at: Instant }[]
  /** Offers they wait for. `place`: in the line, from 1. */
  waits: { offerId: number, name: string, since: Instant, place: number }[]
  /** Segments they are in, as last looked at. */
  segments: { id: number, name: string }[]
  needsConsent: boolean
  score: ScoreOfPerson
  /** The most urgent first, then what is done. */
  todos: { id: number, text: string, helper: string, dueOn: LocalDate, doneAt: Instant | null }[]
  courses: CourseOfPerson[]
  emails: EmailOfPerson[]
  /** Newest first. */
  events: ToldEvent[]
  /** Events that brought something about here and are not this person's own. */
  causes: ToldEvent[]
}

export interface PersonInput {
  firstName: string
  /** IANA name; null for not known. */
  zone: string | null
  /** ISO 3166-1 code; null for not known. */
  country: string | null
  /** As typed, by the number of the field; nothing typed forgets what was known, and a field not named stays. */
  fields: Record<string, string>
}

/** How the table of subscribers is narrowed and ordered. */
export interface PeopleSearch {
  search: string
  sort: PeopleOrder
  where: Condition | null
  status: string | null
  tag: number | null
  list: number | null
  segment: number | null
  optin: number | null
  is: CourseNumber | null
  course: number | null
  step: string | null
  number: string | null
  trouble: string | null
  held: string | null
  /** The people behind a number of a broadcast: which, and which number. */
  broadcast: number | null
  who: string | null
  page: number
}
