/**
 * Whom an audience reaches and who would be held back all the same, whatever the email is: the numbers and the people behind them are the
 * same.
 */
import { ANY_SEND, heldBackBy } from '#core/sending/checks'
import { HELD_BACK_REASONS, type HeldBackReason } from '#core/sending/reasons'
import type { Condition } from './condition'

const BY = heldBackBy(HELD_BACK_REASONS, ANY_SEND)

/** In the fixed order of all reasons. */
export const STANDING_REASONS: readonly HeldBackReason[] = [...BY.keys()]

/**
 * All of these hold for whom it is the first reason; under *nothing* they hold for whoever could be sent something. Everybody is under
 * exactly one.
 */
export const standingConditions = (reason: HeldBackReason | 'nothing'): Condition[] =>
  reason === 'nothing' ? [{ kind: 'may-be-mailed' }] : BY.get(reason)!
