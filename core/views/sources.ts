/** Where people come from, over all pages, and what it cost. */
import type { Money } from '#core/money/money'
import type { SourceKey } from '#core/page/touch'
import type { Instant } from '#core/time/zone'

export interface SourceFigures {
  visits: number
  /** Came by a page in these months, and said yes where they were asked. */
  subscribers: number
  /** Of them: active, and opened or clicked something in the last days. */
  reading: number
  /** One sum per currency. */
  spent: Money[]
  /** Null where nothing was spent, nobody is there, or currencies differ. */
  perSubscriber: Money | null
  perReading: Money | null
}

export interface SourceLine extends SourceFigures { source: SourceKey, says: string }

export interface SourcesView {
  months: number
  from: Instant
  /** Not included. */
  to: Instant
  /** How many days back somebody still reads. */
  readingDays: number
  lines: SourceLine[]
  total: SourceFigures
}

export interface SourceCosts {
  source: SourceKey
  says: string
  /** What new amounts are typed in. */
  currency: string
  /** Newest first: the last twelve, and those before that have an amount. `typed` is empty where nothing was spent. */
  months: { month: string, typed: string, currency: string }[]
}

export interface SourceCostsInput {
  source: SourceKey
  /** An empty text takes the amount out. */
  months: { month: string, typed: string }[]
}
