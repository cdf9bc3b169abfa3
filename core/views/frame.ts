/** What stands around every screen: the wall and the rail. */
import type { Thing } from '#core/things'
import type { SendOf } from '#core/sending/kinds'
import type { Instant } from '#core/time/zone'

export type Mode = 'practice' | 'live'

export interface FrameView {
  workspace: { name: string, zone: string, mode: Mode }
  counts: {
    pages: number, offers: number, subscribers: number, segments: number, tagsAndLists: number, links: number, houseRules: number,
    toDos: number, courses: number, broadcasts: number,
  }
  /** What its owner has put away. */
  archived: Thing[]
  hasLive: boolean
}

/** Emails of one kind that will go out close together; `at` is when the first of them does. */
export interface ComingSend extends SendOf { at: Instant, people: number }

/** What a coming send is called, of what it is, and where that is made. */
export interface SendName { of: string, title: string, to: string | null }

export interface NamedSend extends ComingSend, SendName {}

/** The clock, and marks that differ once something has happened: screens may show something old then. */
export interface ClockView {
  now: Instant
  zone: string
  /** Things that are due and not done yet. */
  backlog: number
  /** Of the latest that happened. */
  eventId: number
  /** Of the newest email in the practice mailbox: not each has an event of its own. */
  mailId: number
}

/** What no screen can be drawn without: it stands in the application's page, so that the first one need not ask for it. */
export interface Beginning { signedIn: boolean, clocks: Partial<Record<Mode, ClockView>> }
/** The element it stands in, as JSON. */
export const BEGINNING = 'beginning'

export interface RailView extends ClockView {
  /** Where the practice clock is going, while it moves. */
  movingTo: Instant | null
  /** Null where they could not be worked out; the clock stands all the same. */
  posts: NamedSend[] | null
}

export type ClockMove =
  | { by: 'next-send' }
  | { by: 'hour' }
  /** To the same clock time on the next calendar day of the workspace. */
  | { by: 'day' }
  | { by: 'to', at: Instant }

export interface Health {
  well: boolean
  web: { well: true, version: string }
  engine: { well: boolean, version: string | null, seenAt: Instant | null }
  /** The engine of the live workspace, if there is one; how late its oldest due work is, in milliseconds. */
  live: { well: boolean, seenAt: Instant | null, lateMs: number } | null
  database: { well: true, schema: number }
}
