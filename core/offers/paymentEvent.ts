/**
 * What a payment service tells, as it stands in a webhook's body (docs/payments.md):
 * `type`, `timestamp` and `data`, as the Standard Webhooks specification advises.
 * Amounts are whole minor units.
 */
import { isCurrency, MOST_AMOUNT } from '#core/money/money'
import type { Instant } from '#core/time/zone'
import { DateTime } from 'luxon'
import type { PaymentFact } from './purchase'

/** Of a payment for something that was not bought by way of our own page: what, and by whom. */
export interface Sale { offer: string, email: string, firstName: string, coupon: string }

export interface PaymentEvent {
  /** The order's key: ours, where it began on a page of ours, else the shop's own. */
  order: string
  fact: PaymentFact
  /** Of the amount; null where none is told. */
  currency: string | null
  /** Only with a payment, and only where it is told. */
  sale: Sale | null
}

const TYPES = {
  'payment.made': 'paid', 'payment.refused': 'refused', 'payment.refunded': 'refunded', 'payment.disputed': 'disputed',
  'order.ended': 'ended',
} as const
type TypeName = keyof typeof TYPES

export type ReadPaymentEvent = { ok: true, paymentEvent: PaymentEvent } | { ok: false, problem: string }

const KEY = /^[\w.:-]{1,120}$/
/** Seconds may be left out, a zone may not: what it would mean nobody could know. */
const INSTANT = /^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}(:\d{2}(\.\d{1,9})?)?(Z|[+-]\d{2}:?\d{2})$/

/** Of unknown text, which whoever sent it is told what is wrong with. */
export function readPaymentEvent(body: string): ReadPaymentEvent {
  const wrong = (problem: string): ReadPaymentEvent => ({ ok: false, problem })
  let json: unknown
  try {
    json = JSON.parse(body)
  }
  catch {
    return wrong('The body is not JSON.')
  }
  const { type, timestamp, data } = asObject(json)
  if (typeof type !== 'string' || !Object.hasOwn(TYPES, type)) return wrong(`type is one of ${Object.keys(TYPES).join(', ')}.`)
  const at = typeof timestamp === 'string' && INSTANT.test(timestamp) ? DateTime.fromISO(timestamp, { setZone: true }).toMillis() : NaN
  if (!Number.isFinite(at)) return wrong('timestamp is an instant like 2026-11-24T08:00:00Z.')
  const said = asObject(data)
  const key = (name: string): string | null => typeof said[name] === 'string' && KEY.test(said[name]) ? said[name] : null
  const needsKey = (name: string) => wrong(`data.${name} is at most 120 letters, digits, dots, colons, hyphens or underlines.`)
  const order = key('order')
  if (order === null) return needsKey('order')
  const payment = key('payment')
  const kind = TYPES[type as TypeName]
  if (kind === 'ended') return { ok: true, paymentEvent: { order, fact: { kind, at }, currency: null, sale: null } }
  if (payment === null) return needsKey('payment')
  if (kind === 'refused') return { ok: true, paymentEvent: { order, fact: { kind, ref: payment, at }, currency: null, sale: null } }
  if (kind === 'disputed') return { ok: true, paymentEvent: { order, fact: { kind, of: payment, at }, currency: null, sale: null } }
  const { amount, currency } = said
  if (typeof amount !== 'number' || !Number.isSafeInteger(amount) || amount < (kind === 'paid' ? 0 : 1) || amount > MOST_AMOUNT) {
    return wrong('data.amount is a whole number of the currency’s smallest units, not below zero: 4900 for €49.00.')
  }
  if (typeof currency !== 'string' || !isCurrency(currency)) return wrong('data.currency is a code of ISO 4217, like EUR.')
  if (kind === 'refunded') {
    const refund = key('refund')
    return refund === null
      ? needsKey('refund')
      : { ok: true, paymentEvent: { order, fact: { kind, ref: refund, of: payment, at, amount }, currency, sale: null } }
  }
  const words = (name: string): string => typeof said[name] === 'string' ? said[name].slice(0, 400).trim() : ''
  const sale = words('offer') === ''
    ? null
    : { offer: words('offer'), email: words('email'), firstName: words('first_name'), coupon: words('coupon') }
  return { ok: true, paymentEvent: { order, fact: { kind, ref: payment, at, amount }, currency, sale } }
}

const asObject = (value: unknown): Record<string, unknown> =>
  typeof value === 'object' && value !== null ? value as Record<string, unknown> : {}

export function writePaymentEvent({ order, fact, currency, sale }: PaymentEvent): string {
  const type = Object.entries(TYPES).find(([, kind]) => kind === fact.kind)![0]
  return JSON.stringify({
    type, timestamp: isoOf(fact.at),
    data: {
      order,
      ...'of' in fact ? { payment: fact.of } : 'ref' in fact && { payment: fact.ref },
      ...fact.kind === 'refunded' && { refund: fact.ref },
      ...'amount' in fact && { amount: fact.amount, currency },
      ...sale && { offer: sale.offer, email: sale.email, first_name: sale.firstName, ...sale.coupon !== '' && { coupon: sale.coupon } },
    },
  })
}

const isoOf = (at: Instant): string => DateTime.fromMillis(at, { zone: 'utc' }).toISO()!
