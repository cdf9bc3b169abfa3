/**
 * What a purchase has come to, from everything the payment service has told of
 * its order. The service may tell in any order, late, and twice: the order of
 * telling changes nothing, and the same told twice counts once.
 */
import type { Instant } from '#core/time/zone'

/** Amounts in minor units of the order's one currency. `ref`: the service's own word for this payment or refund. */
export type PaymentFact =
  | { kind: 'paid', ref: string, at: Instant, amount: number }
  | { kind: 'refused', ref: string, at: Instant }
  /** Money went back; `of` names the payment it was taken from. */
  | { kind: 'refunded', ref: string, of: string, at: Instant, amount: number }
  /** The buyer's bank asks for a payment back. */
  | { kind: 'disputed', of: string, at: Instant }
  /** No further payment will be asked for. */
  | { kind: 'ended', at: Instant }

export interface Payment { ref: string, at: Instant, amount: number, refunded: number, disputed: boolean }

export interface Purchase {
  /** In the order of their times. */
  payments: Payment[]
  /** Payments that did not come through and have no later one that did. */
  refusedAt: Instant | null
  endedAt: Instant | null
  paid: number
  refunded: number
}

/** What of the things told does not count, each with its reason: `early` waits for its payment, `too-much` is more than was left of it. */
export interface Tally { purchase: Purchase | null, uncounted: { fact: PaymentFact, why: 'early' | 'too-much' }[] }

/** Two tellings of one thing are one. */
const keyOf = (fact: PaymentFact): string =>
  fact.kind === 'ended' ? 'ended' : fact.kind === 'disputed' ? `disputed ${fact.of}` : `${fact.kind} ${fact.ref}`

/** Null while no payment has come through: nothing has been bought. */
export function tally(all: readonly PaymentFact[]): Tally {
  const once = new Map<string, PaymentFact>()
  // Of two that differ the earlier stands; at one time, the one that reads first: never the one that came first.
  for (const fact of [...all].sort(inTime)) if (!once.has(keyOf(fact))) once.set(keyOf(fact), fact)
  const fact = [...once.values()]
  const payments: Payment[] = fact.filter(one => one.kind === 'paid')
    .map(({ ref, at, amount }) => ({ ref, at, amount, refunded: 0, disputed: false }))
  const uncounted: Tally['uncounted'] = []
  for (const one of fact) {
    if (one.kind !== 'refunded' && one.kind !== 'disputed') continue
    const payment = payments.find(({ ref }) => ref === one.of)
    if (!payment) uncounted.push({ fact: one, why: 'early' })
    else if (one.kind === 'disputed') payment.disputed = true
    else if (payment.refunded + one.amount > payment.amount) uncounted.push({ fact: one, why: 'too-much' })
    else payment.refunded += one.amount
  }
  if (payments.length === 0) return { purchase: null, uncounted }
  const lastPaidAt = Math.max(...payments.map(({ at }) => at))
  const refusals = fact.filter(one => one.kind === 'refused' && one.at > lastPaidAt).map(({ at }) => at)
  const sum = (part: (payment: Payment) => number) => payments.reduce((total, payment) => total + part(payment), 0)
  return {
    purchase: {
      payments, refusedAt: refusals.length === 0 ? null : Math.min(...refusals),
      endedAt: fact.find(one => one.kind === 'ended')?.at ?? null,
      paid: sum(({ amount }) => amount), refunded: sum(({ refunded }) => refunded),
    },
    uncounted,
  }
}

const inTime = (one: PaymentFact, other: PaymentFact): number => one.at - other.at || (JSON.stringify(one) < JSON.stringify(other) ? -1 : 1)

/**
 * Whether the buyer still has what they bought: not if all of it went back. What is paid again and again is had until the end of what was
 * paid for, which is the caller's to say.
 */
export const isTakenBack = ({ paid, refunded }: Pick<Purchase, 'paid' | 'refunded'>): boolean => paid > 0 && refunded === paid
