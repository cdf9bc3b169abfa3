/** Selling over HTTP: as visitors, buyers and a payment service ask it. */
import { createServer, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { readWebhook, signWebhook } from '#adapters/webhooks'
import { newOffer, type OfferContent } from '#core/offers/offer'
import { writePaymentEvent } from '#core/offers/paymentEvent'
import type { OfferView, SalesView, SellingView } from '#core/views/offers'
import { askers } from './askers'
import { startFurnished } from './furnished'
import { type Porch, until } from './porch'

let porch: Porch
let listId: number
let offerId: number
let secret: string
beforeAll(async () => {
  const furnished = await startFurnished({
    PORCH_TRUST_PROXY: '1', PORCH_SMTP_URL: 'smtp://127.0.0.1:9', PORCH_BASE_URL: 'https://porch.example.com',
  })
  porch = furnished.porch
  listId = furnished.made.listId
  offerId = await sell('Long-Stitch Journals', 'long-stitch', {})
  secret = (await porch.do<SellingView>('GET', 'selling')).ownSecret
})
afterAll(() => porch.stop())

const { from, personOf, mailTo } = askers(() => porch)

async function sell(name: string, slug: string, more: Partial<OfferContent>): Promise<number> {
  const { id } = await porch.do<{ id: number }>('POST', 'offers', { name })
  const base = newOffer(name)
  await porch.do('PUT', `offers/${id}`, { name, slug, draft: {
    ...base, price: { currency: 'EUR', amount: 4900, paying: 'once', parts: 1 }, gives: { ...base.gives, listIds: [listId] }, ...more,
  } })
  await porch.do('POST', `offers/${id}/publish`)
  return id
}
const press = (slug: string, fields: Record<string, string>) => porch.fetch(
  `${porch.mode === 'practice' ? '/practice' : ''}/s/${slug}`, { method: 'POST', headers: from(), body: new URLSearchParams(fields) },
)
const pathOf = (location: string | null) => new URL(location!, porch.url).pathname
const tell = (body: string, id: string, { at = Date.now(), by = secret, path = '/practice/hooks/payments' } = {}) =>
  porch.fetch(path, { method: 'POST', body, headers: { 'content-type': 'application/json', ...signWebhook(by, { id, at, body }) } })
const sales = (id = offerId) => porch.do<SalesView>('GET', `offers/${id}/sales`)

describe('buying', () => {
  it('goes from the page by the stand-in’s checkout to thanks, receipt and one’s own page, without JavaScript', async () => {
    const page = await porch.fetch('/practice/s/long-stitch?from=flyer', { headers: { 'user-agent': 'Mozilla/5.0 Firefox/128.0' } })
    const html = await page.text()
    expect(html).toMatch(/<form method="post" action="\/practice\/s\/long-stitch"/)
    expect(page.headers.get('content-security-policy')).toContain(`form-action 'self'`)
    const pay = await press('long-stitch', {
      email: 'ana@example.com', first_name: 'Ana <b>', touch: /name="touch" value="([^"]+)"/.exec(html)![1]!,
    })
    expect(pay.status).toBe(303)
    const payPath = pathOf(pay.headers.get('location'))
    expect(await (await porch.fetch(payPath)).text()).toContain('No money moves here.')
    expect((await porch.fetch(payPath, { method: 'POST', body: new URLSearchParams({ card: 'refused' }) })).status).toBe(402)
    expect((await porch.fetch(payPath, { method: 'POST', body: new URLSearchParams({ card: 'gold' }) })).status).toBe(422)
    const paid = await porch.fetch(payPath, { method: 'POST', body: new URLSearchParams({ card: 'works' }) })
    expect([paid.status, pathOf(paid.headers.get('location'))]).toEqual([303, '/practice/s/long-stitch/thanks'])
    // Paid twice by an impatient finger is paid once.
    expect((await porch.fetch(payPath, { method: 'POST', body: new URLSearchParams({ card: 'works' }) })).status).toBe(303)
    expect((await porch.fetch(payPath)).status).toBe(303)

    const { purchases, events } = await personOf('ana@example.com')
    expect(purchases.map(({ payments }) => payments.map(({ amount, receipt }) => [amount, receipt?.replace(/^\d{4}-/, '')]))).toEqual([
      [[4900, '0001']],
    ])
    expect(events.map(({ kind }) => kind)).toEqual(expect.arrayContaining(['checkout-started', 'payment-refused', 'bought']))
    const [letter] = await mailTo('ana@example.com')
    const own = /https:\/\/porch\.example\.com(\/practice\/b\/[\w.-]+)/.exec(letter!.text)![1]!
    const buyer = await porch.fetch(own)
    expect(buyer.headers.get('cache-control')).toBe('no-store')
    const text = await buyer.text()
    expect(text).toContain('Ana &lt;b&gt;, this page is yours alone')
    const receipt = await (await porch.fetch(/href="(\/practice\/b\/[^"]+\/receipt\/\d+)"/.exec(text)![1]!)).text()
    expect(receipt).toContain('€49.00')
    expect(receipt).not.toContain('style=')
    // Another's receipt, a made-up address, a letter less.
    for (const path of [`${own}/receipt/999`, `${own}/file/1`, `${own.slice(0, -1)}`, '/practice/b/x.y']) {
      expect((await porch.fetch(path)).status, path).toBe(404)
    }
    const { byCoupon, bySource } = await sales()
    expect([byCoupon[0]!.says, bySource[0]!.says]).toEqual(['without a coupon', '“flyer”'])
  })

  it('tells what is wrong beside it and keeps what was typed; a robot is sent on and learns nothing', async () => {
    await porch.do('POST', `offers/${offerId}/coupons`, {
      code: 'EARLY', cut: { kind: 'percent', hundredths: 3000 }, fromAt: null, untilAt: null, uses: 1, lasts: 'every',
    })
    const wrong = await press('long-stitch', { email: 'ana@', code: 'late"><i>' })
    expect(wrong.status).toBe(422)
    const html = await wrong.text()
    for (const words of ['value="ana@"', 'value="late&quot;&gt;&lt;i&gt;"', 'id="email-problem"', 'This code is not known.']) {
      expect(html).toContain(words)
    }
    expect(await (await porch.fetch('/practice/s/long-stitch?code=early')).text()).toContain('€34.30')
    const robot = await press('long-stitch', { email: 'robot@example.com', website: 'x' })
    expect(pathOf(robot.headers.get('location'))).toBe('/practice/s/long-stitch/thanks')
    expect((await porch.do<{ total: number }>('GET', 'subscribers/count?search=robot@')).total).toBe(0)
  })

  it('of what is closed, sold out or taken down is refused with a page that says so', async () => {
    await sell('Closed', 'closed', { closesAt: 1000 })
    const closed = await press('closed', { email: 'late@example.com' })
    expect([closed.status, await closed.text()]).toEqual([409, expect.stringContaining('Closed since')])
    await porch.do('DELETE', `offers/${(await porch.do<{ id: number }[]>('GET', 'offers')).at(-1)!.id}/publish`)
    expect((await porch.fetch('/practice/s/closed')).status).toBe(404)
    expect((await press('nothing-here', { email: 'a@example.com' })).status).toBe(404)
  })

  it('is refused where a price is no price', async () => {
    const { name, slug, draft } = await porch.do<OfferView>('GET', `offers/${offerId}`)
    for (const amount of [0.5, -1, 1e12, '49']) {
      const answer = await porch.api('PUT', `offers/${offerId}`, { name, slug, draft: { ...draft, price: { ...draft.price, amount } } })
      expect([answer.status, ((await answer.json()) as { fields: { field: string }[] }).fields[0]!.field], String(amount)).toEqual([
        422, 'draft.price.amount',
      ])
    }
    expect(
      (await porch.api('PUT', `offers/${offerId}`, { name, slug, draft: { ...draft, price: { ...draft.price, currency: 'BOO' } } })).status,
    ).toBe(422)
    expect((await porch.api('POST', `offers/${offerId}/coupons`, {
      code: 'ALL', cut: { kind: 'percent', hundredths: 10_100 }, fromAt: null, untilAt: null, uses: null, lasts: 'every',
    })).status).toBe(422)
  })
})

describe('a payment service', () => {
  const sale = (order: string, more: object = {}) => writePaymentEvent({
    order, fact: { kind: 'paid', ref: 'p1', at: Date.now() - 1000, amount: 2500 }, currency: 'EUR',
    sale: { offer: 'long-stitch', email: 'web@example.com', firstName: 'Web', coupon: '', ...more },
  })

  it('is believed by its signature alone, once, and within five minutes', async () => {
    const body = sale('shop-1')
    expect((await tell(body, 'm1', { by: 'whsec_C2FVsBQIhrscChlQIMV+b5sSYspob7oD' })).status).toBe(401)
    expect((await tell(body, 'm1', { at: Date.now() - 301_000 })).status).toBe(401)
    expect((await porch.fetch('/practice/hooks/payments', { method: 'POST', body })).status).toBe(401)
    expect(await (await tell(body, 'm1')).json()).toEqual({ outcome: 'counted' })
    expect(await (await tell(body, 'm1')).json()).toEqual({ outcome: 'known' })
    expect((await personOf('web@example.com')).purchases).toHaveLength(1)
    // Somebody who overheard it and sends it to live.
    expect((await tell(body, 'm1', { path: '/hooks/payments' })).status).toBe(404)
  })

  it('is told in words what cannot be used, and the owner is, too', async () => {
    const unknown = await tell(sale('shop-2', { offer: 'ducks' }), 'm2')
    expect([unknown.status, await unknown.json()]).toEqual([422, { outcome: 'in-vain', problem: expect.stringContaining('“ducks”') }])
    expect((await tell('{"type":"payment.made"}', 'm3')).status).toBe(422)
    expect((await tell('x'.repeat(70_000), 'm4')).status).toBe(413)
    expect(await (await tell(writePaymentEvent({
      order: 'shop-9', fact: { kind: 'refunded', ref: 'r', of: 'p', at: Date.now(), amount: 5 }, currency: 'EUR', sale: null,
    }), 'm5')).json()).toEqual({ outcome: 'waits' })
    const { unmatched } = await porch.do<SellingView>('GET', 'selling')
    expect(unmatched.map(({ webhookId }) => webhookId).sort()).toEqual(['m2', 'm3'])
    await porch.do('DELETE', 'unmatched-payment-events/m2')
    expect((await porch.do<SellingView>('GET', 'selling')).unmatched).toHaveLength(1)
  })

  it('of live is asked for each order, signed, and nothing is sold while there is none', async () => {
    await porch.do('POST', 'live', { smtpUrl: null })
    porch.mode = 'live'
    const refused = await porch.api('POST', `offers/${offerId}/publish`)
    expect([refused.status, JSON.stringify(await refused.json())]).toEqual([422, expect.stringContaining('payment service')])
    const { ownSecret } = await porch.do<SellingView>('GET', 'selling')
    expect(ownSecret).not.toBe(secret)
    const service = await listen(ownSecret)
    try {
      expect((await porch.api('PUT', 'selling', {
        seller: '', taxLine: '', clickDays: 7, paymentsUrl: 'javascript:x', paymentsSecret: '',
      })).status).toBe(422)
      await porch.do('PUT', 'selling', {
        seller: '', taxLine: '', clickDays: 7, paymentsUrl: service.url, paymentsSecret: '', insideMeant: true,
      })
      await porch.do('POST', `offers/${offerId}/publish`)
      const pay = await press('long-stitch', { email: 'real@example.com' })
      expect([pay.status, pay.headers.get('location')]).toEqual([303, 'https://pay.example.com/till'])
      const [asked] = service.asked
      expect(asked).toMatchObject({
        type: 'order.open',
        data: { title: 'Long-Stitch Journals', email: 'real@example.com', firstPrice: { amount: 4900, currency: 'EUR' } },
      })
      const order = (asked!.data as { order: string }).order
      expect(await (await tell(
        writePaymentEvent({ order, fact: { kind: 'paid', ref: 'x1', at: Date.now(), amount: 4900 }, currency: 'EUR', sale: null }), 'l1',
        { by: ownSecret, path: '/hooks/payments' },
      )).json()).toEqual({ outcome: 'counted' })
      const { purchases: [bought] } = await personOf('real@example.com')
      await porch.do('POST', `purchases/${bought!.id}/refund`, { paymentId: bought!.payments[0]!.id, amount: 900 })
      // What was asked for counts once the service tells that it was done.
      expect(service.asked.at(-1)).toMatchObject({ type: 'payment.refund', data: { order, payment: 'x1', amount: 900, currency: 'EUR' } })
      expect((await personOf('real@example.com')).purchases[0]!.payments[0]!.refunded).toBe(0)
      service.refuses = true
      const no = await porch.api('POST', `purchases/${bought!.id}/refund`, { paymentId: bought!.payments[0]!.id, amount: 800 })
      expect([no.status, ((await no.json()) as { problem: string }).problem]).toEqual([409, 'The payment service refused: not today'])
      const away = await press('long-stitch', { email: 'other@example.com' })
      expect([away.status, await away.text()]).toEqual([409, expect.stringContaining('Nothing was bought')])
      // The page on which live buyers press may lead to the service, wherever that is.
      await until(
        async () => (await porch.fetch('/s/long-stitch')).headers.get('content-security-policy')?.includes(`form-action 'self' https:`),
        'the page of live',
      )
    }
    finally {
      porch.mode = 'practice'
      service.server.close()
    }
  })
})

/** A payment service of somebody else's, on this machine. */
async function listen(by: string): Promise<{ url: string, server: Server, asked: { type: string, data: unknown }[], refuses: boolean }> {
  const service = { url: '', server: null as unknown as Server, asked: [] as { type: string, data: unknown }[], refuses: false }
  service.server = createServer((request, response) => {
    let body = ''
    request.on('data', chunk => body += chunk).on('end', () => {
      const header = (name: string) => String(request.headers[name] ?? '')
      const signed = readWebhook([by], {
        'webhook-id': header('webhook-id'), 'webhook-timestamp': header('webhook-timestamp'),
        'webhook-signature': header('webhook-signature'),
      }, body, Date.now())
      if (!signed.ok) return void response.writeHead(401).end('{"problem":"not signed"}')
      if (service.refuses) return void response.writeHead(400).end('{"problem":"not today"}')
      service.asked.push(JSON.parse(body) as { type: string, data: unknown })
      response.end('{"url":"https://pay.example.com/till"}')
    })
  })
  await new Promise<void>(resolve => service.server.listen(0, '127.0.0.1', resolve))
  service.url = `http://127.0.0.1:${(service.server.address() as AddressInfo).port}/orders`
  return service
}
