/** Who emails are from. */
import type { Instant } from '../time/zone'

/** How long a code can be used, and how often it may be mistyped. */
export const CODE_MINUTES = 60
export const CODE_TRIES = 5
export const CODE_LENGTH = 6

export interface SenderInput {
  name: string
  address: string
  /** Where answers go; empty for the address itself. */
  replyTo: string
  /** SMTP address of a mail service of its own; null for the workspace's. Used in live only. */
  serviceUrl: string | null
}

/** Why emails of a sender wait; null where they do not. */
export function waitsBecause(
  sender: { confirmedAt: Instant | null, stoppedReason: string | null } | undefined,
): 'sender not confirmed' | 'sender stopped' | null {
  if (!sender) return null
  if (sender.confirmedAt === null) return 'sender not confirmed'
  return sender.stoppedReason === null ? null : 'sender stopped'
}
