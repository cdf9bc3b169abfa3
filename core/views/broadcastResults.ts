/** The results of a broadcast. */
import type { Money } from '../money/money'
import type { Instant } from '../time/zone'
import type { Who } from './courseNumbers'

/** A number of people of a sent broadcast, by its key; `held-…`, `bounced-…` and `link-…` end in which. */
export interface SentNumber { key: string, people: number }

export interface ResultLink extends SentNumber {
  n: number
  label: string
  /** Where it led as it was sent, and where it leads now. */
  url: string
  now: string
  linkId: number
  clicks: number
}

export interface BroadcastResults {
  /** The answer first. */
  says: string[]
  cannotSay: string[]
  sent: SentNumber
  opened: SentNumber
  uncertain: SentNumber
  notOpened: SentNumber
  clicked: SentNumber
  notClicked: SentNumber
  left: SentNumber
  complained: SentNumber
  bought: SentNumber
  money: Money[]
  /** Refused for good or given up after days, by the code of the last answer; `said`: one of these answers in full. */
  refused: (SentNumber & { says: string, said: string })[]
  held: (SentNumber & { reason: string })[]
  /** First opens and first clicks in each hour after it began, as far as there are any. */
  hours: { hour: number, opened: number, clicked: number }[]
  links: ResultLink[]
  /** One's own broadcasts before it, the newest first: what it is compared with. */
  past: { id: number, name: string, at: Instant, sent: number, opened: number, clicked: number }[]
  clickDays: number
}

export const SPLITS = ['segment', 'tag', 'source', 'domain'] as const
export type Split = typeof SPLITS[number]
/** The same rates within parts of its people, the largest first; people can be in several segments and have several tags. */
export interface SplitRow extends Record<SplitNumber, number> {
  /** Its number, or its name where it has none. */
  part: string
  name: string
}
export type SplitNumber = 'sent' | 'opened' | 'clicked'

/** A number of it by its key; `within`: of one of its parts. */
export interface NumberAsked { key: string, within: { by: Split, part: string } | null }

export interface PeopleOfNumber { people: Who[], more: boolean }
