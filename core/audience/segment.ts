/** Segments: saved conditions with names. Which ones use which, and the ready set. */
import type { Condition, Leaf } from './condition'
import { leavesOf } from './condition'

export interface SegmentInput {
  name: string
  note: string
  condition: Condition
}

/** `code` names one that comes with the workspace. */
export interface Segment extends SegmentInput { id: number, code: ReadyCode | null }

export const READY_CODES = [
  'may-be-mailed', 'consent-missing', 'on-no-list', 'newcomers', 'silent', 'uncertain-only', 'buyers', 'never-bought', 'warm',
] as const
export type ReadyCode = typeof READY_CODES[number]

const all = (...of: Condition[]): Condition => ({ kind: 'all', of })
const none = (...of: Condition[]): Condition => ({ kind: 'none', of })

const SILENT_DAYS = 150
const active: Condition = { kind: 'status', is: ['active'] }
const inLast = (days: number) => ({ kind: 'last-days' as const, days })
const uncertain = (days: number): Leaf => ({ kind: 'last-read', by: 'uncertain', within: inLast(days) })
export const ON_NO_LIST: Condition = all(all(active), none({ kind: 'list', listId: null, is: 'joined' }))
const never = (days: number, ...more: Leaf[]): Condition =>
  none({ kind: 'arrived', when: inLast(days) }, { kind: 'last-read', by: 'reader', within: inLast(days) }, ...more)

/** Active, here for longer than so many days, and neither a reader open nor a click nor an uncertain open since. */
export const silentFor = (days: number): Condition => all(all(active), never(days, uncertain(days)))

/** What every workspace begins with. The first cannot be changed; the others are the owner's to change. */
export const READY_SEGMENTS: readonly (SegmentInput & { code: ReadyCode })[] = [
  {
    code: 'may-be-mailed', name: 'Everyone who may be mailed',
    note: 'Active, confirmed, and with the consent their country needs; on a list or on none.',
    condition: all(all({ kind: 'may-be-mailed' }), none()),
  },
  {
    code: 'consent-missing', name: 'Consent missing',
    note: 'Their country needs consent on record, and there is none. They get no emails.',
    condition: all(all({ kind: 'consent', is: 'missing' }), none({ kind: 'status', is: ['unsubscribed', 'bounced', 'complained'] })),
  },
  {
    code: 'on-no-list', name: 'On no list', note: 'Active, and on none of your lists. They get only what they ask for.',
    condition: ON_NO_LIST,
  },
  {
    code: 'newcomers', name: 'Newcomers of the last 7 days', note: 'Arrived in the last 7 days (of 24 hours).',
    condition: all(all({ kind: 'arrived', when: { kind: 'last-days', days: 7 } }), none()),
  },
  {
    code: 'silent', name: 'Silent for 150 days', note: 'Active, here for longer than that, with no reader open or click since.',
    condition: silentFor(SILENT_DAYS),
  },
  {
    code: 'uncertain-only', name: 'Only uncertain opens for 150 days',
    note: 'Like the silent ones, but a mail program loaded something for them. They may be reading, or not.',
    condition: all(all(active, uncertain(SILENT_DAYS)), never(SILENT_DAYS)),
  },
  {
    code: 'buyers', name: 'Buyers', note: 'Own something they bought, not refunded and not ended.',
    condition: all(all({ kind: 'purchase', fate: 'owned', offerId: null, within: null, times: 1 }), none()),
  },
  { code: 'never-bought', name: 'Never bought anything', note: 'Active, and never bought anything.', condition: all(
    all({ kind: 'status', is: ['active'] }), none({ kind: 'purchase', fate: 'bought', offerId: null, within: null, times: 1 }),
  ) },
  {
    code: 'warm', name: 'Warm people',
    note: 'Active, with 15 points or more: they recently opened or clicked a lot, or took a second download.',
    condition: all(all(active, { kind: 'score', atLeast: 15 }), none()),
  },
]

/** The segments that a condition names itself. */
export function segmentsIn(condition: Condition): number[] {
  return [...new Set(leavesOf(condition).filter(leaf => leaf.kind === 'segment').map(leaf => leaf.segmentId))]
}

/**
 * The path by which a segment would come back to itself if it said this:
 * ids from it to it. Null if there is no circle.
 */
export function circleOf(id: number, condition: Condition, segments: ReadonlyMap<number, Condition>): number[] | null {
  const seen = new Set<number>()
  const follow = (at: number, path: number[]): number[] | null => {
    const here = at === id && path.length === 1 ? condition : segments.get(at)
    for (const next of here ? segmentsIn(here) : []) {
      if (next === id) return [...path, id]
      if (seen.has(next)) continue
      seen.add(next)
      const found = follow(next, [...path, next])
      if (found) return found
    }
    return null
  }
  return follow(id, [id])
}
