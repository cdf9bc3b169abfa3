/** What can take long to count, and is therefore worked out in a thread of its own. */
import type { House } from '#usecases/house'
import { audienceMore, audienceView } from '#usecases/views/audience'
import { idsToExport } from '#usecases/views/exportPeople'
import { importPlan } from '#usecases/views/importPlan'
import { subscribersCount, subscribersView } from '#usecases/views/subscribers'

export const SLOW_VIEWS = {
  subscribers: subscribersView,
  subscribersCount,
  audience: audienceView,
  audienceMore,
  idsToExport,
  importPlan,
} satisfies Record<string, (house: House, input: never) => unknown>

export type SlowView = keyof typeof SLOW_VIEWS

export interface Question { id: number, mode: House['mode'], view: SlowView, input: unknown }

/** A refusal crosses the threads as plain data. */
export type Answer = { id: number } & (
  | { kind: 'answer', answer: unknown }
  | { kind: 'input', problems: { field: string, problem: string }[] }
  | { kind: 'not-there' | 'not-now' | 'failed', message: string }
)
