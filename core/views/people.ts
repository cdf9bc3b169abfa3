/** Subscribers: the table of all, and everything about one. */
import type { ToldEvent } from '#core/events'
import type { Status } from '#core/people/status'
import type { Instant } from '#core/time/zone'

export interface Person {
  id: number
  address: string
  firstName: string
  status: Status
  /** IANA name; null where the browser never told. */
  zone: string | null
  source: string
  createdAt: Instant
}

export interface ListedPerson extends Person {
  /** Names of their tags, with commas. */
  tags: string | null
}

export const PEOPLE_ORDERS = ['newest', 'oldest', 'address', 'name'] as const
export type PeopleOrder = typeof PEOPLE_ORDERS[number]

export interface SubscribersView {
  rows: ListedPerson[]
  total: number
  pageSize: number
  counts: Record<Status, number>
  /** What the table is narrowed to, in words; null if to nothing. */
  narrowedTo: string | null
}

export interface CourseOfPerson { id: number, name: string, status: 'open' | 'finished' | 'left', joinedAt: Instant, endedAt: Instant | null, nextTitle: string | null, nextAt: Instant | null }

export interface EmailOfPerson { id: number, title: string, courseName: string, plannedAt: Instant, status: string, reason: string | null, handedOverAt: Instant | null, openedAt: Instant | null, clickedAt: Instant | null }

export interface SubscriberView {
  person: Person
  lists: { id: number, name: string, joinedAt: Instant, leftAt: Instant | null }[]
  tags: { id: number, name: string, colour: string | null, sinceAt: Instant, expiresAt: Instant | null, eventId: number }[]
  consents: { wording: string, at: Instant, ip: string | null, zone: string | null, pageName: string, pageVersion: number }[]
  courses: CourseOfPerson[]
  emails: EmailOfPerson[]
  /** Newest first. */
  events: ToldEvent[]
  /** Events that brought something about here and are not this person's own. */
  causes: ToldEvent[]
}
