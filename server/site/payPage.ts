/** The page of the payment stand-in. */
import type { H3Event } from 'h3'
import { sayMoney } from '#core/money/money'
import { renderPay } from '#core/offers/render'
import { sayPrice } from '#core/offers/say'
import { paymentsOf } from '#core/offers/price'
import { sayMoment, sayZone } from '#core/time/say'
import { PRACTICE_CARDS } from '#runtime/payments'
import { openWorkspaces } from '#server/workspaces'
import { NotThere } from '#usecases/problem'
import { FILES, page, tokenOf } from './page'

/** The order that a signed address stands for, in the stand-in's own books. */
export function orderAt(event: H3Event) {
  const order = openWorkspaces().of('practice').signer.read('pay', tokenOf(event))
  const found = order === null ? undefined : openWorkspaces().standin.find(order)
  if (!found) throw new NotThere('This order does not exist.')
  return found
}

export function payPage(event: H3Event, problem?: string, status = 200): string {
  const { given } = orderAt(event)
  const { firstPrice, laterPrice, zone } = given
  const { currency } = firstPrice
  return page(event, renderPay({
    senderName: 'The practice workspace', postalAddress: '', files: FILES, title: given.title,
    lines: given.lines.map(({ words, amount }) => ({ words, amount: sayMoney({ amount, currency }) })),
    whole: firstPrice.paying === 'parts' ? sayMoney(firstPrice) : null, total: sayMoney({ amount: paymentsOf(firstPrice)[0]!, currency }),
    later: laterPrice
      ? `Then ${sayPrice(laterPrice)}, until it is ended.`
      : firstPrice.paying === 'parts' ? `${sayPrice(firstPrice)}.` : null,
    buyer: given.email, until: `${sayMoment(given.until, zone)} (${sayZone(zone)})`, action: event.path, backUrl: given.backUrl,
    cards: Object.entries(PRACTICE_CARDS).map(([key, name]) => ({ key, name })), ...problem && { problem },
  }), status)
}
