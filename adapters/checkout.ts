/**
 * The payment service of live, over HTTP: three signed requests to one address,
 * described in docs/payments.md. It speaks for whatever takes the money.
 */
import { randomUUID } from 'node:crypto'
import type { Checkout, Clock, Webhooks } from '#core/ports'
import { CheckoutProblem } from '#core/ports'

const PATIENCE_MS = 15_000
/** What a service answers is one address. */
const MOST_ANSWER = 20_000

export function createHttpCheckout({ url, webhooks, system }: { url: string, webhooks: Pick<Webhooks, 'sign'>, system: Clock }): Checkout {
  async function ask(wish: string, data: unknown, id: string = randomUUID()): Promise<unknown> {
    const body = JSON.stringify({ type: wish, timestamp: new Date(system.now()).toISOString(), data })
    let response: Response
    try {
      response = await fetch(url, {
        method: 'POST', body, headers: { 'content-type': 'application/json', ...webhooks.sign({ id, at: system.now(), body }) },
        redirect: 'error', signal: AbortSignal.timeout(PATIENCE_MS),
      })
    }
    catch {
      throw new CheckoutProblem('The payment service cannot be reached.')
    }
    const text = (await response.text().catch(() => '')).slice(0, MOST_ANSWER)
    const answer = jsonOf(text)
    if (!response.ok) throw new CheckoutProblem(
      `The payment service refused: ${typeof answer.problem === 'string' ? answer.problem.slice(0, 300) : `it answered ${response.status}`}`,
    )
    return answer
  }
  return {
    async open(order) {
      const {
        url: payAt,
      } = await ask('order.open', { ...order, until: new Date(order.until).toISOString() }, `open.${order.order}`) as { url?: unknown }
      const parsed = typeof payAt === 'string' ? URL.parse(payAt) : null
      if (!parsed || !/^https?:$/.test(parsed.protocol)) throw new CheckoutProblem('The payment service did not say where to pay.')
      return { url: parsed.href }
    },
    async refund(refund) {
      await ask('payment.refund', refund, refund.ref)
    },
    async end(order) {
      await ask('order.end', { order }, `end.${order}`)
    },
  }
}

function jsonOf(text: string): Record<string, unknown> {
  try {
    const json = JSON.parse(text) as unknown
    return typeof json === 'object' && json !== null ? json as Record<string, unknown> : {}
  }
  catch {
    return {}
  }
}
