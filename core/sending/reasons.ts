/** Why an email can be held back, as it is told. What each asks for stands in checks.ts. */

/** In the order in which one reason is told when several are true. */
export const HELD_BACK_WORDS = {
  'bounced': 'bounced',
  'complained': 'complained',
  'unsubscribed': 'unsubscribed',
  'not-confirmed': 'not confirmed',
  'left-list': 'left the list',
  'not-on-list': 'not on the list',
  'no-consent': 'no consent',
  'resting': 'resting',
  'paused-by-themselves': 'paused by the reader',
  'left-course': 'left the course',
  'in-never': 'in never',
  'said-no-more': 'wants no more about it',
  'owns-it': 'owns it',
  'newcomer': 'newcomer',
  'got-it-already': 'already got it',
  'too-late': 'too late',
  'too-many-emails': 'too many emails',
} as const

export type HeldBackReason = keyof typeof HELD_BACK_WORDS

export const HELD_BACK_REASONS = Object.keys(HELD_BACK_WORDS) as readonly HeldBackReason[]

/** Why an email waits for its turn among others, after the moment at which it goes. */
export const TURN_WORDS = {
  'domain pace': 'only so many emails a minute go to this domain',
  'domain pauses': 'the mail server of this address asked us to wait',
  'warm-up': 'the warm-up of its sender had no room earlier',
} as const

export type WaitsForTurn = keyof typeof TURN_WORDS

/** `listName`: which list the email belongs to, where that is known. */
export function sayHeldBack(reason: string | null, listName: string | null): string {
  if (reason === null) return 'no reason recorded'
  if (reason === 'not-on-list' && listName !== null) return `not on the list “${listName}”`
  return reason in HELD_BACK_WORDS ? HELD_BACK_WORDS[reason as HeldBackReason] : reason.replaceAll('-', ' ')
}
