/** Where buyers pay, and who is believed about it: the stand-in of practice, or the payment service that live is set to. */
import { createHmac } from 'node:crypto'
import { isIPv6 } from 'node:net'
import { createHttpCheckout } from '#adapters/checkout'
import { createWebhooks } from '#adapters/webhooks'
import type { Checkout, Clock, OrderToPay, Signer, WebhookHeaders, Webhooks } from '#core/ports'
import type { Database } from '#data/connection'
import { duePracticeOrders, findPracticeOrder, keepPracticeOrder, type PracticeOrderRow } from '#data/practiceOrders'
import { sellingOf } from '#data/selling'
import { workspaceOf } from '#data/workspace'
import { createCheckoutStandin, type CheckoutStandin, type PracticeBooks, type PracticeOrder } from '#standins/checkout'
import type { Keys } from './keys'
import type { Settings } from './settings'

export { webhookSecretProblem } from '#adapters/webhooks'
export { PRACTICE_CARDS, type CheckoutStandin, type PracticeCard } from '#standins/checkout'

/** Brings a webhook of the stand-in to its endpoint, from within this process or over the line; throws if it is not taken. */
export type Deliver = (headers: WebhookHeaders, body: string) => Promise<void>

const system: Clock = { now: () => Date.now() }

/** The secret that signs where none was typed: made from the installation's key, and the same each time. */
export function ownPaymentsSecret(db: Database, keys: Keys): string {
  const { mode, key } = workspaceOf(db)
  return `whsec_${createHmac('sha256', keys.signing).update(`${mode}/${key}\npayments`).digest('base64')}`
}

export function webhooksOn(db: Database, keys: Keys): Webhooks {
  return createWebhooks({ secrets: () => [sellingOf(db).paymentsSecret || ownPaymentsSecret(db, keys)], system })
}

export function standinOn(
  db: Database,
  { signer, baseUrl, clock, webhooks, deliver }: { signer: Signer, baseUrl: string, clock: Clock, webhooks: Webhooks, deliver: Deliver },
): CheckoutStandin {
  return createCheckoutStandin({
    books: booksIn(db),
    report: (id, body) => deliver(webhooks.sign({ id, at: system.now(), body }), body),
    pageOf: order => `${baseUrl}/pay/${signer.sign('pay', order)}`,
    now: () => clock.now(),
  })
}

/** Asked for anew each time: a changed address counts from the next order on. */
export function liveCheckout(db: Database, webhooks: Webhooks): Checkout | null {
  const { paymentsUrl } = sellingOf(db)
  return paymentsUrl === null ? null : createHttpCheckout({ url: paymentsUrl, webhooks, system })
}

/**
 * Where a server that listens on `host` is found from its own machine, as it stands in an address: every interface is no place to go to,
 * and IPv6 stands in brackets (RFC 3986, 3.2.2).
 */
export function reachable(host: string): string {
  if (host === '0.0.0.0') return '127.0.0.1'
  if (host === '::') return '[::1]'
  return isIPv6(host) ? `[${host}]` : host
}

/** The stand-in's service and our endpoint are this one server. */
export function overTheLine({ host: listensOn, port }: Settings): Deliver {
  const host = reachable(listensOn)
  return async (headers, body) => {
    const response = await fetch(`http://${host}:${port}/practice/hooks/payments`, {
      method: 'POST', body, headers: { 'content-type': 'application/json', ...headers },
    })
    if (!response.ok) throw new Error(`Our own endpoint answered ${response.status}: ${await response.text()}`)
  }
}

function booksIn(db: Database): PracticeBooks {
  const read = (row: PracticeOrderRow): PracticeOrder => ({
    ...row, given: JSON.parse(row.given) as OrderToPay, card: row.card as PracticeOrder['card'],
    givenBack: JSON.parse(row.givenBack) as PracticeOrder['givenBack'],
  })
  return {
    find: (order) => {
      const row = findPracticeOrder(db, order)
      return row && read(row)
    },
    keep: ({ given, card, payments, givenBack, firstPaidAt, nextAt, disputeAt, endedAt }) => keepPracticeOrder(db, {
      orderKey: given.order, given: JSON.stringify(given), card, payments, givenBack: JSON.stringify(givenBack), firstPaidAt, nextAt,
      disputeAt, endedAt,
    }),
    due: at => duePracticeOrders(db, at).map(read),
  }
}
