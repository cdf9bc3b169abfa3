/** What holds somebody back whatever the email is, as conditions: so that the numbers and the people behind them are the same. */
import type { HeldBackReason } from '#core/people/heldback'
import type { Status } from '#core/people/status'
import type { Condition } from './condition'

/** In the fixed order of all reasons. */
export const STANDING_REASONS = [
  'bounced', 'complained', 'unsubscribed', 'not-confirmed', 'no-consent', 'resting',
] as const satisfies readonly HeldBackReason[]
export type StandingReason = typeof STANDING_REASONS[number]

const status = (...is: Status[]): Condition => ({ kind: 'status', is })
const consentMissing: Condition = { kind: 'consent', is: 'missing' }

/**
 * All of these hold for whom it is the first reason; under *nothing* they hold for whoever could be sent something. Everybody is under
 * exactly one.
 */
export const HELD_BACK_BY: Record<StandingReason | 'nothing', Condition[]> = {
  'bounced': [status('bounced')],
  'complained': [status('complained')],
  'unsubscribed': [status('unsubscribed')],
  'not-confirmed': [status('pending')],
  'no-consent': [status('active', 'resting'), consentMissing],
  'resting': [status('resting'), { kind: 'none', of: [consentMissing] }],
  'nothing': [{ kind: 'may-be-mailed' }],
}
