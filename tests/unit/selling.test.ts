/** What an offer says, what is told of it, and how a purchase stands. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { MOST_AMOUNT } from '#core/money/money'
import { boxHtml, type BoxView } from '#core/offers/boxHtml'
import { missingForSelling, newOffer, NONE_TAKEN, standingOf, type OfferContent } from '#core/offers/offer'
import { newWaiting } from '#core/offers/waiting'
import { linesOfPayment, receiptHtml, receiptText, sayReceiptNumber, type Receipt } from '#core/offers/receipt'
import { sayCut, sayPrice, sayPriceWith, sayStanding } from '#core/offers/say'
import { standOfPurchase } from '#core/offers/standing'
import { readPaymentEvent, writePaymentEvent, type PaymentEvent } from '#core/offers/paymentEvent'
import type { Price } from '#core/offers/price'
import { noMark } from '#core/page/editing'
import { NO_TOUCH } from '#core/page/touch'

const price = (amount: number, more: Partial<Price> = {}): Price => ({ currency: 'EUR', amount, paying: 'once', parts: 1, ...more })
const at = (day: string) => Date.parse(`${day}T12:00:00Z`)

describe('a price in words', () => {
  it.each<[Price, string]>([
    [price(18_000), '€180.00'], [price(1900, { paying: 'monthly' }), '€19.00 a month'],
    [price(19_000, { paying: 'yearly' }), '€190.00 a year'],
    [price(18_000, { paying: 'parts', parts: 3 }), '€180.00 in 3 monthly payments of €60.00'],
    [price(10_000, { paying: 'parts', parts: 3 }), '€100.00 in 3 monthly payments of €33.34 and €33.33'],
    [price(4000, { currency: 'JPY' }), 'JP¥4,000'], [price(1500, { currency: 'KWD' }), 'KWD\u00a01.500'],
  ])('%j is %s', (one, words) => expect(sayPrice(one)).toBe(words))

  it('with a coupon says what is paid first and what after', () => {
    const cut = { kind: 'percent' as const, hundredths: 5000 }
    expect(sayPriceWith(price(1900, { paying: 'monthly' }), { cut, lasts: 'first' })).toBe('€9.50 for the first month, then €19.00 a month')
    expect(sayPriceWith(price(1900, { paying: 'monthly' }), { cut, lasts: 'every' })).toBe('€9.50 a month')
    expect(sayCut({ cut: { kind: 'percent', hundredths: 1250 }, lasts: 'every', currency: 'EUR' }, price(1))).toBe('12.5 % off')
    expect(
      sayCut({ cut: { kind: 'amount', amount: 500 }, lasts: 'first', currency: 'EUR' }, price(1, { paying: 'yearly' })),
    ).toBe('€5.00 off the first payment')
  })
})

describe('an offer', () => {
  const offer = (more: Partial<OfferContent> = {}): OfferContent => ({
    ...newOffer('Journals'), price: price(4900), gives: { ...newOffer().gives, listIds: [1] }, ...more,
  })
  const [opensAt, closesAt, opensAgainAt] = [at('2026-12-01'), at('2026-12-05'), at('2027-02-01')]

  it('is open from its opening to before its closing, and again from when it opens again', () => {
    const is = (now: number, more: Partial<OfferContent> = {}, sold = 0, held = 0) => standingOf(offer({
      opensAt, closesAt, opensAgainAt, ...more
    }), now, { sold, held, freeAt: held ? now + 1 : null }).is
    expect([opensAt - 1, opensAt, closesAt - 1, closesAt, opensAgainAt - 1, opensAgainAt].map(now => is(now))).toEqual([
      'not-yet', 'open', 'open', 'closed', 'closed', 'open',
    ])
    expect([
      is(opensAt, { places: 2 }, 1), is(opensAt, { places: 2 }, 2), is(closesAt, { places: 2 }, 2), is(opensAt, { places: 2 }, 1, 1),
      is(opensAt, {}, 9, 9),
    ]).toEqual(['open', 'sold-out', 'closed', 'being-paid', 'open'])
    expect(sayStanding(standingOf(offer({
      opensAt, closesAt, opensAgainAt,
    }), closesAt, NONE_TAKEN), 'Europe/Lisbon')).toBe('Closed. It opens again Mon 1 Feb, 12:00 (Lisbon time)')
    expect(sayStanding(standingOf(offer({ places: 3, closesAt }), opensAt, {
      ...NONE_TAKEN, sold: 2,
    }), 'Europe/Lisbon')).toBe('Can be bought until Sat 5 Dec, 12:00 (Lisbon time), 1 place is left')
    expect(sayStanding(standingOf(offer({ places: 3 }), opensAt, {
      sold: 0, held: 2, freeAt: opensAt + 1,
    }), 'Europe/Lisbon')).toBe('Can be bought, 1 place is left and 2 places are being paid for')
    expect(sayStanding(standingOf(offer({ places: 3 }), opensAt, {
      sold: 1, held: 2, freeAt: opensAt + 60_000,
    }), 'Europe/Lisbon')).toBe('The last 2 places are being paid for. If one is not, it is free again Tue 1 Dec, 12:01 (Lisbon time)')
  })

  it('lacks nothing once it has a price, a list and its words; and says of each what it lacks', () => {
    expect(missingForSelling(offer())).toEqual([])
    const lacks = (more: Partial<OfferContent>) => missingForSelling(offer(more)).map(({ field }) => field)
    expect(lacks({ price: price(0) })).toEqual(['price.amount'])
    expect(lacks({ price: price(2, { paying: 'parts', parts: 3 }) })).toEqual(['price.parts'])
    expect(lacks({ opensAt: closesAt, closesAt: opensAt })).toEqual(['closesAt'])
    expect(lacks({ opensAgainAt })).toEqual(['opensAgainAt'])
    expect(lacks({ places: 0, waiting: newWaiting() })).toEqual(['places', 'waiting'])
    expect(lacks({ gives: { ...newOffer().gives, renewalFieldId: 1 } })).toEqual(['listIds', 'renewalFieldId'])
    expect(lacks({ sections: [] })).toEqual(['sections', 'sections'])
    expect(lacks({ receipt: {
      ...newOffer().receipt, body: { type: 'doc', content: [{ type: 'paragraph', content: [{ type: 'text', text: 'Thanks' }] }] },
    } })).toEqual(['receipt'])
  })

  it('shows no form while it cannot be bought, but that of its waiting list; what was typed is escaped', () => {
    const view: BoxView = {
      content: offer(), standing: { is: 'open', until: null, left: null, held: 0 }, zone: 'UTC', hasCoupons: true, coupon: null,
      code: '"><b>', action: '/s/x', touch: NO_TOUCH, filled: { email: '<i>', firstName: '' }, mark: noMark,
    }
    expect(boxHtml(view).source).toContain('value="&quot;&gt;&lt;b&gt;"')
    const closed = boxHtml({ ...view, standing: { is: 'closed', since: closesAt, again: null } }).source
    expect([closed.includes('<form'), closed.includes('Closed since Sat 5 Dec')]).toEqual([false, true])
    const waits = boxHtml({ ...view, content: offer({ waiting: newWaiting() }), standing: { is: 'sold-out' } }).source
    expect([waits.includes('name="wish" value="wait"'), waits.includes('name="code"')]).toEqual([true, false])
  })
})

describe('a receipt', () => {
  const receipt: Receipt = {
    number: sayReceiptNumber(2026, 7), at: at('2026-11-26'), zone: 'Europe/Lisbon', seller: 'Ines <& Co>\nRua do Cais 3', buyer: 'Ana',
    currency: 'EUR', lines: [{ words: 'Journals', amount: 4900 }, { words: 'EARLY', amount: -1470 }], total: 3430, taxLine: 'VAT exempt',
    refunded: 0,
  }

  it('says number, date, seller, lines, total and tax alike in text and in HTML', () => {
    const [text, page, email] = [receiptText(receipt), receiptHtml(receipt, 'page').source, receiptHtml(receipt, 'email').source]
    for (const words of ['2026-0007', 'Thu 26 Nov 2026', 'Rua do Cais 3', 'Ana', 'Journals', '€49.00', '-€14.70', '€34.30', 'VAT exempt']) {
      for (const part of [text, page, email]) expect(part).toContain(words)
    }
    expect(page).toContain('Ines &lt;&amp; Co&gt;')
    // A page of ours takes no inline styles, an email knows no others.
    expect([page.includes('style='), email.includes('style=')]).toEqual([false, true])
    expect(receiptText({ ...receipt, refunded: 1000 })).toContain('Refunded since: €10.00')
  })

  it('has lines that come to what was paid, whatever that was', () => {
    fc.assert(fc.property(fc.nat(MOST_AMOUNT), fc.nat(MOST_AMOUNT), fc.option(fc.constant('EARLY')), fc.integer({
      min: 1, max: 30,
    }), fc.option(fc.integer({ min: 1, max: 24 })), (listAmount, amount, couponWords, nth, of) => {
      expect(
        linesOfPayment({ title: 'T', listAmount, couponWords, amount, nth, of }).reduce((sum, line) => sum + line.amount, 0),
      ).toBe(amount)
    }))
    expect(linesOfPayment({ title: 'T', listAmount: 9000, couponWords: 'EARLY', amount: 2000, nth: 2, of: 3 })).toEqual([
      { words: 'T, payment 2 of 3', amount: 2000 },
    ])
  })
})

describe('how a purchase stands', () => {
  const purchase = (days: string[], more: object = {}) => ({
    payments: days.map((day, n) => ({ ref: `p${n}`, at: at(day), amount: 900, refunded: 0, disputed: false })), refusedAt: null,
    endedAt: null, paid: 900 * days.length, refunded: 0, ...more,
  })

  it('is paid for to the end of what was paid, and over at it once ended', () => {
    const monthly = price(900, { paying: 'monthly' })
    const until = at('2027-01-26')
    expect(standOfPurchase(purchase(['2026-11-26', '2026-12-26']), monthly, 'UTC', at('2026-12-27'))).toEqual({
      paidUntilAt: until, overDueAt: null, isOver: false,
    })
    const ended = purchase(['2026-11-26', '2026-12-26'], { endedAt: at('2026-12-27') })
    expect([until - 1, until].map(now => standOfPurchase(ended, monthly, 'UTC', now))).toEqual([
      { paidUntilAt: until, overDueAt: until, isOver: false }, { paidUntilAt: until, overDueAt: null, isOver: true },
    ])
  })

  it('in parts owes the next until all are paid; once is theirs; all back is over', () => {
    const parts = price(2700, { paying: 'parts', parts: 3 })
    expect(standOfPurchase(purchase(['2026-11-26']), parts, 'UTC', 0).paidUntilAt).toBe(at('2026-12-26'))
    expect(standOfPurchase(purchase(['2026-11-26', '2026-12-26', '2027-01-26']), parts, 'UTC', 0)).toEqual({
      paidUntilAt: null, overDueAt: null, isOver: false,
    })
    expect(standOfPurchase(purchase(['2026-11-26'], { refunded: 900 }), price(900), 'UTC', 0).isOver).toBe(true)
    expect(standOfPurchase({ ...purchase(['2026-11-26']), paid: 0 }, price(0), 'UTC', 0).isOver).toBe(false)
  })
})

describe('what stands in a webhook', () => {
  const key = fc.stringMatching(/^[\w.:-]{1,40}$/)
  const when = fc.integer({ min: 0, max: 4e12 })
  const amount = fc.integer({ min: 1, max: MOST_AMOUNT })
  const words = fc.string({ maxLength: 40 }).map(text => text.trim())
  const anyPaymentEvent: fc.Arbitrary<PaymentEvent> = fc.oneof(
    fc.record({
      order: key, fact: fc.record({ kind: fc.constant('paid' as const), ref: key, at: when, amount }),
      currency: fc.constantFrom('EUR', 'JPY'),
      sale: fc.option(fc.record({ offer: fc.stringMatching(/^[a-z]{1,9}$/), email: words, firstName: words, coupon: words })),
    }),
    fc.record({
      order: key, fact: fc.record({ kind: fc.constant('refunded' as const), ref: key, of: key, at: when, amount }),
      currency: fc.constantFrom('EUR', 'KWD'), sale: fc.constant(null),
    }),
    fc.record({ order: key, fact: fc.oneof(
      fc.record({ kind: fc.constant('refused' as const), ref: key, at: when }),
      fc.record({ kind: fc.constant('disputed' as const), of: key, at: when }),
      fc.record({ kind: fc.constant('ended' as const), at: when }),
    ), currency: fc.constant(null), sale: fc.constant(null) }),
  )

  it('is read as it was written', () => {
    fc.assert(fc.property(anyPaymentEvent, (paymentEvent) => {
      expect(readPaymentEvent(writePaymentEvent(paymentEvent))).toEqual({ ok: true, paymentEvent })
    }))
  })

  const body = (data: object, more: object = {}) => JSON.stringify({
    type: 'payment.made', timestamp: '2026-11-26T12:00:00Z', data: { order: 'o1', payment: 'p1', amount: 4900, currency: 'EUR', ...data },
    ...more,
  })
  it.each<[string, string, string]>([
    ['not JSON', '{', 'not JSON'], ['another type', body({}, { type: 'payment.dreamt' }), 'type is one of'],
    ['null', 'null', 'type is one of'], ['a name of every object', body({}, { type: 'constructor' }), 'type is one of'],
    ['no time', body({}, { timestamp: 'today' }), 'timestamp'], [
      'a time without a zone', body({}, { timestamp: '2026-11-26T12:00:00' }), 'timestamp',
    ], ['a day that is none', body({}, { timestamp: '2026-02-30T12:00:00Z' }), 'timestamp'],
    ['no order', body({ order: '' }), 'data.order'], ['an order with a line break', body({ order: 'a\nb' }), 'data.order'],
    ['no payment', body({ payment: 7 }), 'data.payment'],
    ['part of a cent', body({ amount: 0.5 }), 'data.amount'], ['less than nothing', body({ amount: -1 }), 'data.amount'],
    ['an amount in words', body({ amount: '4900' }), 'data.amount'], ['more than fits', body({ amount: MOST_AMOUNT + 1 }), 'data.amount'],
    ['an unknown currency', body({ currency: 'BOO' }), 'data.currency'], [
      'a refund of nothing', body({ amount: 0, refund: 'r' }, { type: 'payment.refunded' }), 'data.amount',
    ], ['a refund without its word', body({}, { type: 'payment.refunded' }), 'data.refund'],
  ])('with %s is refused in words', (_, text, words) => {
    expect(readPaymentEvent(text)).toEqual({ ok: false, problem: expect.stringContaining(words) as string })
  })

  it('of whatever text never throws', () => {
    fc.assert(fc.property(fc.oneof(fc.string(), fc.json(), fc.record({
      type: fc.constantFrom('payment.made', 'order.ended'), timestamp: fc.string(), data: fc.jsonValue(),
    }).map(one => JSON.stringify(one))), (text) => {
      expect(typeof readPaymentEvent(text).ok).toBe('boolean')
    }))
  })
})
