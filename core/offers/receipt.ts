/** The receipt of a payment: what it says, as HTML for email and page, and as text. */
import { sayMoney } from '#core/money/money'
import { day } from '#core/theme/tokens'
import { html, type Html } from '#core/page/html'
import { sayDay } from '#core/time/say'
import type { Instant, ZoneName } from '#core/time/zone'

export interface ReceiptLine { words: string, amount: number }

export interface Receipt {
  /** `2026-0007` */
  number: string
  at: Instant
  zone: ZoneName
  /** Who sells, on several lines. */
  seller: string
  buyer: string
  currency: string
  lines: ReceiptLine[]
  /** What the lines come to. */
  total: number
  /** As typed in the settings; empty for none. */
  taxLine: string
  /** What of it has gone back since. */
  refunded: number
}

export const sayReceiptNumber = (year: number, n: number): string => `${year}-${String(n).padStart(4, '0')}`

/**
 * What a payment was for: the whole price and what came off it, for a first payment, or which of several it is. Lines come to what was
 * paid, whatever that was.
 */
export function linesOfPayment({
  title, listAmount, couponWords, amount, nth, of,
}: { title: string, listAmount: number, couponWords: string | null, amount: number, nth: number, of: number | null }): ReceiptLine[] {
  const words = of !== null && of > 1 ? `${title}, payment ${nth} of ${of}` : nth > 1 ? `${title}, payment ${nth}` : title
  return couponWords !== null && nth === 1 && (of ?? 1) === 1 && listAmount > amount
    ? [{ words, amount: listAmount }, { words: couponWords, amount: amount - listAmount }]
    : [{ words, amount }]
}

const parts = ({ number, at, zone, seller, buyer, currency, lines, total, taxLine, refunded }: Receipt) => ({
  head: [
    ['Receipt', number], ['Date', sayDay(at, zone, true)], ['Seller', seller.split(/\s*\n\s*/).filter(Boolean).join(', ')],
    ['Buyer', buyer],
  ] as [string, string][],
  rows: lines.map(({ words, amount }): [string, string] => [words, sayMoney({ amount, currency })]),
  total: sayMoney({ amount: total, currency }),
  taxLine: taxLine.trim(),
  back: refunded > 0 ? sayMoney({ amount: refunded, currency }) : null,
})

/** What each part looks like in an email, whose readers know no other styles; a page of ours has its classes and takes none of these. */
const IN_EMAIL = {
  head: 'border-collapse:collapse;margin:0 0 14px', label: 'padding:2px 16px 2px 0;vertical-align:top;white-space:nowrap',
  value: 'padding:2px 0;overflow-wrap:anywhere', lines: 'border-collapse:collapse;width:100%',
  cell: `padding:6px 0;vertical-align:top;border-bottom:1px solid ${day.line}`,
  amount: `padding:6px 0 6px 16px;vertical-align:top;border-bottom:1px solid ${day.line};text-align:right;white-space:nowrap`,
  tax: 'margin:10px 0 0',
}

export function receiptHtml(receipt: Receipt, where: 'email' | 'page'): Html {
  const { head, rows, total, taxLine, back } = parts(receipt)
  const look = (part: keyof typeof IN_EMAIL) => where === 'email' && html` style="${IN_EMAIL[part]}"`
  const row = (label: string, value: string, strong = false) =>
    html`<tr><td${look('cell')}>${strong ? html`<strong>${label}</strong>` : label}</td><td${look('amount')}>${strong ? html`<strong>${value}</strong>` : value}</td></tr>`
  return html`<table role="presentation" class="receipt-head"${look('head')}>${head.map(([label, value]) => html`<tr><td${look('label')}>${label}</td><td${look('value')}>${value}</td></tr>`)}</table>
<table class="receipt"${look('lines')}>${rows.map(([label, value]) => row(label, value))}${row('Total', total, true)}${back !== null && row('Refunded since', back)}</table>
${taxLine !== '' && html`<p${look('tax')}>${taxLine}</p>`}`
}

export function receiptText(receipt: Receipt): string {
  const { head, rows, total, taxLine, back } = parts(receipt)
  return [
    ...head.map(([label, value]) => `${label}: ${value}`), '',
    ...rows.map(([label, value]) => `${label}: ${value}`), `Total: ${total}`, ...back !== null ? [`Refunded since: ${back}`] : [],
    ...taxLine !== '' ? ['', taxLine] : [],
  ].join('\n')
}
