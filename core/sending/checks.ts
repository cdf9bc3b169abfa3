/**
 * What can hold an email back: one table, asked by the last look before it leaves, by *why did they (not) get it*, and by every preview of
 * whom an email would reach. What it says of one person in memory and what it asks of many in SQL stand side by side.
 */
import type { Condition } from '#core/audience/condition'
import { STATUSES, type Status } from '#core/people/status'
import { HELD_BACK_REASONS, type HeldBackReason } from './reasons'

/** What is known of one email and the person it is for. */
export interface CheckFacts {
  status: Status
  /** What they have just asked for: nothing that only says they want less holds it back. */
  askedFor: boolean
  list: 'joined' | 'left' | 'never-joined'
  /** Whether the list may also be sent to people who never joined it. */
  listTakesEverybody: boolean
  /** Not on record although their country needs it. */
  consentMissing: boolean
  /** They asked for a pause that is not over. */
  paused: boolean
  leftCourse: boolean
  /** They are among those whom its audience leaves out. */
  inNever: boolean
  /** It sells an offer they want to hear no more of. */
  saidNoMore: boolean
  /** They have every offer that it sells. */
  ownsIt: boolean
  /** They joined less long ago than its audience asks for. */
  isNewcomer: boolean
  /** Its first sending was read meanwhile. */
  gotItAlready: boolean
  /** It is past the time after which it says nothing any more. */
  tooLate: boolean
  /** Their day or week is full, and what is too many is dropped. */
  tooMany: boolean
}

/** What is known of an email before it is for anybody; nothing of it for an audience that belongs to no email yet. */
export interface CheckedSend {
  /** Null where everybody may get it, also people who never joined its list. */
  closedListId: number | null
  listId: number | null
  never: Condition | null
  /** Whole days, each 24 hours; null where newcomers get it, too. */
  newcomerDays: number | null
  /** Offers that it sells. */
  sells: readonly number[]
  /** It goes to who has all of them, too. */
  ownersToo?: true
}

interface Check {
  is(facts: CheckFacts): boolean
  /**
   * Whom it holds of before anything is decided: a status, or a condition; null where this email gives no reason for it. Left out where
   * only the moment tells.
   */
  whom?(of: CheckedSend): Status | Condition | null
}

const statusIs = (status: Status) => ({ is: (facts: CheckFacts) => facts.status === status, whom: () => status })

/** One for each reason. */
const CHECKS: Record<HeldBackReason, Check> = {
  'bounced': { ...statusIs('bounced') },
  'complained': { ...statusIs('complained') },
  'unsubscribed': { ...statusIs('unsubscribed') },
  'not-confirmed': { is: ({ status, askedFor }) => status === 'pending' && !askedFor, whom: () => 'pending' },
  'left-list': {
    is: ({ list }) => list === 'left',
    whom: ({ listId }) => listId === null ? null : { kind: 'list', listId, is: 'left' },
  },
  'not-on-list': {
    is: ({ list, listTakesEverybody }) => list === 'never-joined' && !listTakesEverybody,
    whom: ({ closedListId }) => closedListId === null ? null : { kind: 'list', listId: closedListId, is: 'never-joined' },
  },
  'no-consent': { is: ({ consentMissing }) => consentMissing, whom: () => ({ kind: 'consent', is: 'missing' }) },
  'resting': { ...statusIs('resting') },
  'paused-by-themselves': { is: ({ paused, askedFor }) => paused && !askedFor },
  'left-course': { is: ({ leftCourse }) => leftCourse },
  'in-never': { is: ({ inNever }) => inNever, whom: ({ never }) => never },
  'said-no-more': {
    is: ({ saidNoMore, askedFor }) => saidNoMore && !askedFor,
    whom: ({ sells }) => sells.length === 0 ? null : { kind: 'any', of: sells.map(offerId => ({ kind: 'no-more', offerId })) },
  },
  'owns-it': {
    is: ({ ownsIt, askedFor }) => ownsIt && !askedFor,
    whom: ({ sells, ownersToo }) => sells.length === 0 || ownersToo ? null
      : { kind: 'all', of: sells.map(offerId => ({ kind: 'purchase', fate: 'owned', offerId, within: null, times: 1 })) },
  },
  'newcomer': {
    is: ({ isNewcomer }) => isNewcomer,
    whom: ({ newcomerDays }) => newcomerDays === null ? null : { kind: 'arrived', when: { kind: 'last-days', days: newcomerDays } },
  },
  'got-it-already': { is: ({ gotItAlready }) => gotItAlready },
  'too-late': { is: ({ tooLate }) => tooLate },
  'too-many-emails': { is: ({ tooMany }) => tooMany },
}

/** The first of a kind's checks that holds its email back, or null if it may leave. */
export const heldBackFor = (checks: readonly HeldBackReason[], facts: CheckFacts): HeldBackReason | null =>
  HELD_BACK_REASONS.find(reason => checks.includes(reason) && CHECKS[reason].is(facts)) ?? null

/* Of many people */

/** Nothing is known of the email. */
export const ANY_SEND: CheckedSend = { closedListId: null, listId: null, never: null, newcomerDays: null, sells: [] }

/**
 * Whom each reason holds of as the first, in the fixed order: all of these conditions together. Everybody is under one of them at the most.
 * Reasons that only the moment can tell are not among them.
 */
export function heldBackBy(checks: readonly HeldBackReason[], of: CheckedSend): Map<HeldBackReason, Condition[]> {
  const found = new Map<HeldBackReason, Condition[]>()
  /** Those who are under none of the reasons before. */
  let statuses: readonly Status[] = STATUSES
  const others: Condition[] = []
  for (const reason of HELD_BACK_REASONS) {
    const check: Check = CHECKS[reason]
    const whom = checks.includes(reason) ? check.whom?.(of) ?? null : null
    if (whom === null) continue
    const before: Condition[] = others.length === 0 ? [] : [{ kind: 'none', of: [...others] }]
    if (typeof whom === 'string') {
      found.set(reason, [{ kind: 'status', is: [whom] }, ...before])
      statuses = statuses.filter(status => status !== whom)
    }
    else {
      found.set(reason, [...statuses.length === STATUSES.length ? [] : [{ kind: 'status' as const, is: [...statuses] }], whom, ...before])
      others.push(whom)
    }
  }
  return found
}
