/** How a purchase stands: until when it is paid for, and when it is over. */
import type { Instant, ZoneName } from '#core/time/zone'
import { dueAt, isRenewed, type Price } from './price'
import { isTakenBack, type Purchase } from './purchase'

export interface PurchaseStanding {
  /** When the next payment is due, or the last stretch paid for ends; null where nothing is due any more. */
  paidUntilAt: Instant | null
  /** When it will be over, if nothing else is told; null if it will not. */
  overDueAt: Instant | null
  /** True if it is over: all the money went back, or the end of what was paid for has come. */
  isOver: boolean
}

/** A payment that went back as a whole pays for no stretch. */
export function standOfPurchase(
  purchase: Purchase, { paying, parts }: Pick<Price, 'paying' | 'parts'>, zone: ZoneName, now: Instant,
): PurchaseStanding {
  const kept = purchase.payments.filter(({ amount, refunded }) => amount === 0 || refunded < amount)
  const goesOn = isRenewed({ paying }) || (paying === 'parts' && kept.length < parts)
  const paidUntilAt = goesOn && paying !== 'once' ? dueAt(purchase.payments[0]!.at, kept.length, paying, zone) : null
  const endsAt = purchase.endedAt === null ? null : paidUntilAt
  const isOver = isTakenBack(purchase) || (endsAt !== null && endsAt <= now)
  return { paidUntilAt, overDueAt: isOver ? null : endsAt, isOver }
}
