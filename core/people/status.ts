/** What a subscriber's status is, and the only ways it may change. */

export const STATUSES = ['pending', 'active', 'resting', 'unsubscribed', 'bounced', 'complained'] as const
export type Status = typeof STATUSES[number]

export type StatusEvent =
  /** The person pressed the button on a page of ours that asks for no more than that. */
  | 'opted-in'
  /** The person paid for what they chose on a page of ours, whose button agrees to the emails of what is bought. */
  | 'bought'
  /** The person said yes in the email that asked for it. */
  | 'confirmed'
  /** The person asked for no more mail at all. */
  | 'unsubscribed'
  /** A mail server refused this address for good. */
  | 'bounced'
  | 'complained'
  /** The person asked, by the address of an email of theirs, to get mail again. */
  | 'came-back'
  | 'put-to-rest'
  | 'woken'

/**
 * The written table. A pair that is not here changes nothing.
 *
 * `unsubscribed`, `bounced` and `complained` are lifted only by the person's
 * own act of opting in again (with their yes by email, where the page wants
 * one), of buying on a page of ours, or of coming back by an email they have, and an import refuses such people. Somebody new is `pending`
 * until
 * they have pressed the button or said yes, `active` by an import. A refusal never hides that someone left or
 * complained, because leaving is the stricter promise.
 */
const TABLE: Record<Status, Partial<Record<StatusEvent, Status>>> = {
  pending: {
    'opted-in': 'active', 'bought': 'active', 'confirmed': 'active', 'unsubscribed': 'unsubscribed', 'bounced': 'bounced',
    'complained': 'complained',
  },
  active: { 'unsubscribed': 'unsubscribed', 'bounced': 'bounced', 'complained': 'complained', 'put-to-rest': 'resting' },
  resting: {
    'came-back': 'active', 'opted-in': 'active', 'bought': 'active', 'confirmed': 'active', 'woken': 'active',
    'unsubscribed': 'unsubscribed', 'bounced': 'bounced', 'complained': 'complained',
  },
  unsubscribed: { 'came-back': 'active', 'opted-in': 'active', 'bought': 'active', 'confirmed': 'active', 'complained': 'complained' },
  bounced: {
    'came-back': 'active', 'opted-in': 'active', 'bought': 'active', 'confirmed': 'active', 'unsubscribed': 'unsubscribed',
    'complained': 'complained',
  },
  complained: { 'came-back': 'active', 'opted-in': 'active', 'bought': 'active', 'confirmed': 'active' },
}

export function statusAfter(status: Status, event: StatusEvent): Status {
  return TABLE[status][event] ?? status
}

/** True if the status ends courses and stops queued mail. */
export function isGone(status: Status): boolean {
  return status === 'unsubscribed' || status === 'bounced' || status === 'complained'
}

/** From the strictest: what two people who turn out to be one have together. */
const STRICTEST: readonly Status[] = ['complained', 'unsubscribed', 'bounced', 'pending', 'resting', 'active']

export function strictest(a: Status, b: Status): Status {
  return STRICTEST.find(status => status === a || status === b)!
}
