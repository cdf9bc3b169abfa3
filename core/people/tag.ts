/** A tag is a private note about a person. It may vanish by itself. */
import type { Follows } from '#core/rules/shortForms'
import { sayMonth } from '#core/time/say'
import type { Instant, LocalDate, ZoneName } from '#core/time/zone'
import { DAY, instantOf } from '#core/time/zone'

export type TagExpiry =
  | { kind: 'never' }
  /** So many days (24 hours) after it is given, 1 to 3,650. */
  | { kind: 'after', days: number }
  /** At the beginning of that day in the workspace's zone. */
  | { kind: 'on', date: LocalDate }

export interface TagFacts {
  /** May hold `[month]` and `[launch]`, filled in when it is given. */
  name: string
  note: string
  /** Free words of the owner's; empty for none. */
  group: string
  /** `#rrggbb`, or null for none. */
  colour: string | null
  expiry: TagExpiry
  /** What readers see it as on their choices page, where they take it and put it away themselves; null or left out for a private note. */
  publicName?: string | null
}

export interface TagInput extends TagFacts {
  /** Other tags, by number. */
  follows: Follows
}

const BLANK = /\[(month|launch)\]/gi

/** True for a name that is filled in anew each time the tag is given: then people have the filled tags. */
export const hasBlanks = (name: string): boolean => name.search(BLANK) >= 0

/** `joined [month]` as `joined November 2026`; outside of a launch, its blank is left out. */
export function fillBlanks(name: string, { at, zone, launch }: { at: Instant, zone: ZoneName, launch: string | null }): string {
  return name.replace(BLANK, (_, blank: string) => blank.toLowerCase() === 'month' ? sayMonth(at, zone) : launch ?? '').replace(/\s+/g, ' ')
    .trim()
}

/** When a tag given at `at` vanishes; null if it stays. A date that is past means at once. */
export function expiryOf(expiry: TagExpiry, at: Instant, zone: ZoneName): Instant | null {
  switch (expiry.kind) {
    case 'never':
      return null
    case 'after':
      return at + expiry.days * DAY
    case 'on':
      return Math.max(at, instantOf(expiry.date, '00:00', zone))
  }
}

/** `vanishes 30 days after it is given` */
export function sayExpiry(expiry: TagExpiry, sayDate: (date: LocalDate) => string): string {
  switch (expiry.kind) {
    case 'never':
      return ''
    case 'after':
      return `expires ${expiry.days} ${expiry.days === 1 ? 'day' : 'days'} (24 hours) after it is added`
    case 'on':
      return `expires on ${sayDate(expiry.date)}`
  }
}
