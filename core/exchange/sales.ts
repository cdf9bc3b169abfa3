/** Past sales from a file: what each column says, and each row as a sale. */
import { isCurrency, readMoney } from '#core/money/money'
import { checkAddress } from '#core/people/address'
import { readDate, type DateOrder } from '#core/people/field'
import { instantOf, type Instant, type ZoneName } from '#core/time/zone'
import { DateTime } from 'luxon'

export const SALE_TARGETS = ['order', 'email', 'first-name', 'offer', 'amount', 'currency', 'date', 'coupon', 'nothing'] as const
export type SaleTarget = typeof SALE_TARGETS[number]

/** Those without which no row is a sale. */
export const NEEDED: readonly SaleTarget[] = ['order', 'email', 'amount', 'date']

export interface SalesSpec {
  /** What each column says; of several that say the same the first counts. */
  columns: SaleTarget[]
  dateOrder: DateOrder
  /** Where no column says it, or a cell is empty. */
  offerId: number | null
  currency: string
}

export interface PastSale {
  order: string, email: string, firstName: string, offerId: number, amount: number, currency: string, at: Instant, coupon: string,
}

export type ReadSale = { ok: true, sale: PastSale } | { ok: false, problem: string }

const WORDS: [SaleTarget, RegExp][] = [
  ['email', /e-?mail|address/], ['order', /order|invoice|receipt|number|reference|^id$/], ['first-name', /first|name|buyer|customer/],
  ['offer', /offer|product|item|title|what/],
  ['currency', /currency/], ['amount', /amount|total|price|paid|sum/], ['date', /date|time|when|day|^at$/],
  ['coupon', /coupon|code|discount/],
]

/** By the names above the columns; each is guessed once. */
export function guessSaleColumns(names: readonly string[]): SaleTarget[] {
  const free = new Set<SaleTarget>(SALE_TARGETS)
  return names.map((name) => {
    const found = WORDS.find(([target, words]) => free.has(target) && words.test(name.toLowerCase()))
    if (!found) return 'nothing'
    free.delete(found[0])
    return found[0]
  })
}

const LONGEST_ORDER = 120

/** `offers` by their names and by the ends of their addresses, in small letters. A date without a time is noon in the zone. */
export function readSale(
  cells: readonly string[], spec: SalesSpec, { offers, zone, now }: { offers: ReadonlyMap<string, number>, zone: ZoneName, now: Instant },
): ReadSale {
  const wrong = (problem: string): ReadSale => ({ ok: false, problem })
  const cell = (target: SaleTarget) => (cells[spec.columns.indexOf(target)] ?? '').trim()
  const order = cell('order')
  if (order === '') return wrong('It has no order number, so it could be imported twice.')
  if (order.length > LONGEST_ORDER) return wrong(`An order number has at most ${LONGEST_ORDER} letters.`)
  const checked = checkAddress(cell('email'))
  if (!checked.ok) return wrong(checked.problem)
  const named = cell('offer')
  const offerId = named === '' ? spec.offerId : offers.get(named.toLowerCase()) ?? null
  if (offerId === null) return wrong(named === '' ? 'It does not say which offer was sold.' : `There is no offer “${named}”.`)
  const currency = cell('currency').toUpperCase() || spec.currency
  if (!isCurrency(currency)) return wrong(`“${currency}” is not a currency; write it like EUR.`)
  // Signs and codes beside an amount say nothing that the currency does not.
  const amount = readMoney(cell('amount').replace(/^[^\d+\-.,]+|[^\d.,]+$/g, ''), currency)
  if (!amount.ok) return wrong(amount.problem)
  const at = readInstant(cell('date'), spec.dateOrder, zone)
  if (at === null) return wrong(`A date looks like 2026-11-24, not “${cell('date')}”.`)
  if (at > now) return wrong('Its date is in the future. Only past sales can be imported.')
  return { ok: true, sale: {
    order, email: checked.address.shown, firstName: cell('first-name'), offerId, amount: amount.amount, currency, at,
    coupon: cell('coupon'),
  } }
}

function readInstant(text: string, order: DateOrder, zone: ZoneName): Instant | null {
  // With its zone an instant is exact, whatever our own zone is.
  const exact = /^\d{4}-\d{2}-\d{2}[T ]\d{2}:\d{2}(:\d{2}(\.\d+)?)?(Z|[+-]\d{2}:?\d{2})$/.test(text)
    ? DateTime.fromISO(text.replace(' ', 'T'), { setZone: true }).toMillis()
    : NaN
  if (Number.isFinite(exact)) return exact
  const date = readDate(text, order)
  return date === null ? null : instantOf(date, '12:00', zone)
}
