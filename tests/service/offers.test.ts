/** Selling: from the button of an offer's page to what is given, given back and taken away. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { PaymentFact } from '#core/offers/purchase'
import { newOffer, NONE_TAKEN, type OfferContent } from '#core/offers/offer'
import { newWaiting } from '#core/offers/waiting'
import { MINUTE } from '#core/time/zone'
import { wholeStory } from '#data/events'
import { membership, hasTag } from '#data/marks'
import { openEnrolmentsOfPerson } from '#data/enrolments'
import { findPersonByKey } from '#data/people'
import { findPurchase, paymentsOfPurchase, placesTaken, unmatchedPaymentEvents } from '#data/purchases'
import { emailsOfPerson } from '#data/outbox'
import { buyerView } from '#usecases/offers/buyer'
import { startCheckout } from '#usecases/offers/checkout'
import { waitForOffer } from '#usecases/offers/wait'
import { endPurchase, giveBack } from '#usecases/offers/end'
import { CheckoutProblem } from '#core/ports'
import { InputProblem, NotNow } from '#usecases/problem'
import { receiveWebhook } from '#usecases/offers/tell'
import { writePaymentEvent } from '#core/offers/paymentEvent'
import { createOffer, publishOffer, saveOffer } from '#usecases/offers/save'
import { createCourse, saveCourse } from '#usecases/courses/save'
import { startCourse } from '#usecases/courses/publish'
import { offerView } from '#usecases/views/offers'
import { bought, buy, coupon, kindsOf, leaveAll, mailboxOf, openContext, openShop, press, statusOf, told } from './shop'
import { DAY, furnish, HOUR, moveTo, step, thursdayNoon, visit, type Workshop } from './workshop'

const shop = async (content: Partial<OfferContent> = {}) => openShop(await furnish(openContext()), content)
const gives = (more: Partial<OfferContent['gives']>) => ({ ...newOffer().gives, ...more })
const problemOf = (work: Promise<unknown>) => work.then(() => 'none', (error: Error) => error instanceof InputProblem
  ? error.problems.map(({ field }) => field).join()
  : error instanceof NotNow ? `now: ${error.message}` : String(error))

describe('buying', () => {
  it('takes a person out of one course and into another, with the list, the tag and a receipt', async () => {
    const setting = await furnish(openContext())
    const { context, listId, tagId, interestId, courseId } = setting
    visit(context, 'ana@example.com', 'Ana')
    const { courseId: second } = await furnishSecond(context, listId)
    await openShop(setting, { gives: gives({ listIds: [listId], tagIds: [interestId], courseId: second, endsCourseIds: [courseId] }) })
    const { personId } = await buy(context, 'ana@example.com')
    expect(openEnrolmentsOfPerson(context.db, personId).map(row => row.courseId)).toEqual([second])
    expect(hasTag(context.db, interestId, personId)).toBe(true)
    expect(hasTag(context.db, tagId, personId)).toBe(true)
    await moveTo(context, thursdayNoon + HOUR)
    const receipt = mailboxOf(context).find(mail => mail.subject === 'Your receipt')!
    for (const part of [receipt.html, receipt.text]) {
      for (const words of ['2026-0001', 'Thu 26 Nov 2026', 'Ines', 'Long-Stitch Journals', '€49.00', 'Ana']) expect(part).toContain(words)
    }
    expect(receipt.text).toMatch(/Total: €49\.00/)
  })

  it('makes who is new an active subscriber, with the consent they pressed for; going to pay alone makes nobody one', async () => {
    const { context, listId } = await shop()
    const order = await press(context, 'new@example.com', { firstName: 'Rui' })
    expect(statusOf(context, 'new@example.com')).toBe('pending')
    expect(emailsOfPerson(context.db, findPersonByKey(context.db, 'new@example.com')!.id)).toEqual([])
    await context.standin.pay(order, 'refused')
    expect(statusOf(context, 'new@example.com')).toBe('pending')
    await context.standin.pay(order, 'works')
    const person = findPersonByKey(context.db, 'new@example.com')!
    expect([person.status, person.firstName, person.consentAt]).toEqual(['active', 'Rui', thursdayNoon])
    expect(membership(context.db, listId, person.id)).toBe('joined')
    expect(kindsOf(context, 'new@example.com')).toEqual([
      'checkout-started', 'payment-refused', 'bought', 'consent-recorded', 'status-changed', 'joined-list', 'reached-score',
    ].filter(kind => kind !== 'consent-recorded'))
  })

  it('brings back who had left, because they pressed its button; a sale told from elsewhere does not', async () => {
    const { context } = await shop()
    for (const email of ['back@example.com', 'gone@example.com']) leaveAll(context, visit(context, email))
    await buy(context, 'back@example.com')
    expect(statusOf(context, 'back@example.com')).toBe('active')
    expect(told(
      context, 'shop-1', { kind: 'paid', ref: 'p1', at: thursdayNoon, amount: 4900 },
      { sale: { offer: 'long-stitch', email: 'gone@example.com', firstName: '', coupon: '' } },
    ).is).toBe('counted')
    expect(statusOf(context, 'gone@example.com')).toBe('unsubscribed')
    expect(bought(context, 'gone@example.com')).toHaveLength(1)
  })

  it('sends the receipt also to who leaves everything meanwhile, and nothing else', async () => {
    const { context } = await shop()
    const { personId } = await buy(context, 'ana@example.com')
    leaveAll(context, personId)
    await moveTo(context, thursdayNoon + DAY)
    expect(mailboxOf(context).map(({ subject }) => subject)).toEqual(['Your receipt'])
  })

  it('is judged at the press of the button, to the millisecond', async () => {
    const opensAt = thursdayNoon + 10 * HOUR
    const closesAt = thursdayNoon + 20 * HOUR
    const { context } = await shop({ opensAt, closesAt })
    const at = async (instant: number) => {
      await moveTo(context, instant)
      return await problemOf(press(context, `b${instant}@example.com`))
    }
    expect(await at(opensAt - 1)).toMatch(/^now: Opens Thu 26 Nov, 22:00/)
    expect(await at(opensAt)).toBe('none')
    expect(await at(closesAt - 1)).toBe('none')
    expect(await at(closesAt)).toMatch(/^now: Closed since Fri 27 Nov, 08:00/)
  })

  it('A6: holds a place for ten minutes, for one press of a person at a time', async () => {
    const { context, offerId } = await shop({ places: 2 })
    const first = await press(context, 'a@example.com')
    await press(context, 'a@example.com')
    await press(context, 'b@example.com')
    expect(await problemOf(press(context, 'c@example.com'))).toBe(
      'now: The last 2 places are being paid for. If one is not, it is free again Thu 26 Nov, 12:10 (Lisbon time). Nothing was bought.'
    )
    await moveTo(context, thursdayNoon + 10 * MINUTE)
    expect(placesTaken(context.db, offerId, context.clock.now())).toEqual(NONE_TAKEN)
    expect(await context.standin.pay(first, 'works')).toBe('too-late')
    await buy(context, 'c@example.com')
    await buy(context, 'd@example.com')
    // What was paid in time and told a day late counts, also beyond the places: the money has come.
    told(context, first, { kind: 'paid', ref: 'late', at: thursdayNoon + 1000, amount: 4900 })
    expect(placesTaken(context.db, offerId, context.clock.now())).toEqual({ sold: 3, held: 0, freeAt: null })
    expect(await problemOf(press(context, 'e@example.com'))).toMatch(/All places/)
  })

  it('A6: holds at most two unpaid places for one place on the net, whatever addresses are invented there', async () => {
    const { context, offerId } = await shop({ places: 10 })
    const from = (origin: string, email: string) => startCheckout(context, {
      slug: 'long-stitch', email, firstName: '', code: '', zone: '', ip: null, origin,
    })
    await from('203.0.113.7', 'a@example.com')
    await from('203.0.113.7', 'b@example.com')
    for (let n = 0; n < 10; n++) expect(await problemOf(from(
      '203.0.113.7', `invented${n}@example.com`
    ))).toMatch(/^now: Several checkouts are open from your network/)
    // Pressing again is no second place, and nobody else waits for them.
    await from('203.0.113.7', 'a@example.com')
    await from('198.51.100.7', 'c@example.com')
    expect(placesTaken(context.db, offerId, context.clock.now())).toMatchObject({ sold: 0, held: 3 })
    await moveTo(context, thursdayNoon + 10 * MINUTE)
    await from('203.0.113.7', 'd@example.com')
    expect(placesTaken(context.db, offerId, context.clock.now())).toMatchObject({ sold: 0, held: 1 })
  })

  it('is given up after the hours of the offer, once, and counts all the same when it is paid after that', async () => {
    const { context } = await shop({ abandonedAfterHours: 3 })
    const order = await press(context, 'slow@example.com')
    await moveTo(context, thursdayNoon + 3 * HOUR - 1)
    expect(kindsOf(context, 'slow@example.com')).not.toContain('checkout-abandoned')
    await moveTo(context, thursdayNoon + 2 * DAY)
    expect(kindsOf(context, 'slow@example.com').filter(kind => kind === 'checkout-abandoned')).toHaveLength(1)
    told(context, order, { kind: 'paid', ref: 'p', at: context.clock.now(), amount: 4900 })
    expect(bought(context, 'slow@example.com')).toHaveLength(1)
  })

  it('is offered to those who wait while it cannot be, and not while it can', async () => {
    const { context, listId } = await shop({ opensAt: thursdayNoon + DAY, waiting: { ...newWaiting(), listIds: [1], asks: false } })
    const pressed = { slug: 'long-stitch', email: 'w@example.com', firstName: '', code: '', zone: '', ip: null }
    waitForOffer(context, pressed)
    expect(membership(context.db, listId, findPersonByKey(context.db, 'w@example.com')!.id)).toBe('joined')
    await moveTo(context, thursdayNoon + DAY)
    expect(() => waitForOffer(context, pressed)).toThrow(NotNow)
  })
})

describe('a coupon', () => {
  it.each<[string, Parameters<typeof coupon>[2], string, string]>([
    ['that ended a second ago', { untilAt: thursdayNoon - 1000 }, 'EARLY', 'code'],
    ['that starts tomorrow', { fromAt: thursdayNoon + DAY }, 'EARLY', 'code'],
    ['that nobody knows', {}, 'LATE', 'code'],
    ['whose uses are up', { uses: 1 }, 'early', 'code'],
    ['in small letters and with spaces', {}, ' ear ly', 'none'],
  ])('%s', async (_, more, code, wrong) => {
    const { context, offerId } = await shop()
    coupon(context, offerId, more)
    if (more?.uses) await buy(context, 'first@example.com', { code: 'EARLY' })
    expect(await problemOf(press(context, 'second@example.com', { code }))).toBe(wrong)
  })

  it('of another offer says so, and one that counts is in the price, the receipt and no other order', async () => {
    const { context, offerId } = await shop()
    const other = createOffer(context, 'Paper Sampler')
    coupon(context, other, { code: 'OTHER' })
    coupon(context, offerId)
    await expect(press(context, 'a@example.com', { code: 'OTHER' })).rejects.toThrow('This code is for something else.')
    const cut = await buy(context, 'a@example.com', { code: 'EARLY' })
    const full = await buy(context, 'b@example.com')
    expect([cut.paid, full.paid]).toEqual([3430, 4900])
    await moveTo(context, thursdayNoon + HOUR)
    const [text] = mailboxOf(context).filter(mail => mail.to === 'a@example.com').map(mail => mail.text)
    expect(text).toMatch(/Long-Stitch Journals: €49\.00\nEARLY: 30 % off: -€14\.70\nTotal: €34\.30/)
  })

  it.each([
    ['101 percent', { cut: { kind: 'percent' as const, hundredths: 10_100 } }],
    ['an amount below zero', { cut: { kind: 'amount' as const, amount: -1 } }], ['no code', { code: '  ' }],
    ['an end before its beginning', { fromAt: 2, untilAt: 1 }], ['no use', { uses: 0 }],
  ])('of %s is refused', async (_, more) => {
    const { context, offerId } = await shop()
    expect(() => coupon(context, offerId, more)).toThrow(InputProblem)
  })

  it('of an amount counts in its own currency alone: the same number would be another amount', async () => {
    const { context, offerId, listId } = await shop()
    coupon(context, offerId, { cut: { kind: 'amount', amount: 2000 } })
    const { name, slug, draft } = offerView(context, offerId)
    saveOffer(context, offerId, {
      name, slug, draft: { ...draft, price: { ...draft.price, currency: 'JPY' }, gives: { ...draft.gives, listIds: [listId] } },
    })
    await publishOffer(context, offerId)
    await expect(press(context, 'a@example.com', { code: 'EARLY' })).rejects.toThrow(
      'This code takes off an amount in EUR, and the price is in JPY.',
    )
  })

  it('of the whole price sells for nothing, with a receipt of nothing', async () => {
    const { context, offerId } = await shop()
    coupon(context, offerId, { cut: { kind: 'percent', hundredths: 10_000 } })
    const { paid, overAt } = await buy(context, 'a@example.com', { code: 'EARLY' })
    expect([paid, overAt]).toEqual([0, null])
  })
})

describe('what a payment service tells', () => {
  const paid = (ref = 'p1', at = thursdayNoon, amount = 4900) => ({ kind: 'paid', ref, at, amount }) as const
  const sale = { offer: 'long-stitch', email: 'x@example.com', firstName: 'Xia', coupon: '' }

  it('counts once, however often and under however many identifiers it is told', async () => {
    const { context } = await shop()
    expect(told(context, 's1', paid(), { sale, id: 'same' }).is).toBe('counted')
    expect(told(context, 's1', paid(), { sale, id: 'same' }).is).toBe('known')
    told(context, 's1', paid(), { sale, id: 'other' })
    const [one, ...more] = bought(context, 'x@example.com')
    expect([one!.paid, more]).toEqual([4900, []])
    expect(kindsOf(context, 'x@example.com').filter(kind => kind === 'bought' || kind === 'renewed')).toEqual(['bought'])
  })

  it('comes to the same in any order: a refund before its payment waits for it', async () => {
    const { context } = await shop()
    expect(told(context, 's1', { kind: 'refunded', ref: 'r1', of: 'p1', at: thursdayNoon, amount: 1900 }).is).toBe('waits')
    expect(findPersonByKey(context.db, 'x@example.com')).toBeUndefined()
    expect(told(context, 's1', paid(), { sale }).is).toBe('counted')
    expect(bought(context, 'x@example.com')[0]).toMatchObject({ paid: 4900, refunded: 1900 })
    expect(kindsOf(context, 'x@example.com')).toContain('refunded')
  })

  it.each<[string, () => Parameters<typeof told>, string]>([
    ['an unknown offer', () => [null!, 's1', paid(), { sale: { ...sale, offer: 'nothing' } }], 'There is no offer “nothing”'],
    ['an order from elsewhere that says no offer', () => [null!, 's1', paid()], 'Name the offer'],
    ['an address that is none', () => [null!, 's1', paid(), { sale: { ...sale, email: 'x@' } }], 'The buyer’s address is wrong'],
    ['a time to come', () => [null!, 's1', paid('p1', thursdayNoon + 2 * DAY), { sale }], 'in the future'],
  ])('of %s is refused in words, is shown, and changes nothing', async (_, args, words) => {
    const { context } = await shop()
    const [, order, what, more] = args()
    expect(told(context, order, what, more)).toMatchObject({ is: 'in-vain', problem: expect.stringContaining(words) as string })
    expect(findPersonByKey(context.db, 'x@example.com')).toBeUndefined()
    expect(unmatchedPaymentEvents(context.db, 10)).toHaveLength(1)
  })

  it('a refund larger than the payment is refused, in whole and in sum', async () => {
    const { context } = await shop()
    told(context, 's1', paid(), { sale })
    const back = (ref: string, amount: number, currency = 'EUR') =>
      told(context, 's1', { kind: 'refunded', ref, of: 'p1', at: thursdayNoon, amount }, { currency })
    expect(back('r1', 4901).is).toBe('in-vain')
    expect(back('r2', 3000).is).toBe('counted')
    expect(back('r3', 1901).is).toBe('in-vain')
    expect(back('r4', 100, 'JPY')).toMatchObject({ is: 'in-vain', problem: 'This order is in EUR, not in JPY.' })
    expect(bought(context, 'x@example.com')[0]).toMatchObject({ refunded: 3000, overAt: null })
  })

  it('comes to the same purchase whatever the order, the doubling and the delay', async () => {
    const { context } = await shop({ price: { currency: 'EUR', amount: 900, paying: 'monthly', parts: 1 } })
    await moveTo(context, thursdayNoon + 70 * DAY)
    const at = (days: number) => thursdayNoon + days * DAY
    const story: PaymentFact[] = [
      paid('p1', at(0), 900), paid('p2', at(30), 900), { kind: 'refunded', ref: 'r1', of: 'p1', at: at(31), amount: 300 },
      { kind: 'disputed', of: 'p2', at: at(32) }, { kind: 'refused', ref: 'p3', at: at(61) }, { kind: 'ended', at: at(62) },
    ]
    let order = 0
    await fc.assert(fc.asyncProperty(fc.shuffledSubarray([...story, ...story], { minLength: story.length * 2 }), async (all) => {
      const email = `x${++order}@example.com`
      for (const [n, one] of all.entries()) told(context, `s${order}`, one, { sale: { ...sale, email }, id: `${order}-${n}` })
      const [purchase] = bought(context, email)
      expect(purchase).toMatchObject({ boughtAt: at(0), paid: 1800, refunded: 300, disputed: 1, refusedAt: at(61), endedAt: at(62) })
      expect(paymentsOfPurchase(context.db, purchase!.id)).toHaveLength(2)
      expect(
        kindsOf(context, email).filter(kind => ['bought', 'renewed', 'refunded', 'disputed', 'ending-asked'].includes(kind)).sort(),
      ).toEqual(['bought', 'disputed', 'ending-asked', 'refunded', 'renewed'])
    }), { numRuns: 25 })
  })

  it('is told again under the same identifier where the stand-in broke off before its books were closed, and counts once', async () => {
    const { context } = await shop()
    const order = await press(context, 'ana@example.com')
    context.db.exec(`CREATE TEMP TRIGGER broken BEFORE UPDATE ON practice_orders BEGIN SELECT raise(ABORT, 'the power went'); END`)
    await expect(context.standin.pay(order, 'works')).rejects.toThrow('the power went')
    expect(bought(context, 'ana@example.com')).toHaveLength(1)
    context.db.exec('DROP TRIGGER broken')
    await moveTo(context, thursdayNoon + 60_000)
    expect(await context.standin.pay(order, 'works')).toBe('paid')
    const [purchase] = bought(context, 'ana@example.com')
    expect(purchase).toMatchObject({ paid: 4900, boughtAt: thursdayNoon })
    await moveTo(context, thursdayNoon + HOUR)
    expect(mailboxOf(context)).toHaveLength(1)
  })

  it('leaves nothing half done where something fails in the middle', async () => {
    const { context } = await shop()
    const order = await press(context, 'ana@example.com')
    const before = JSON.stringify(wholeStory(context.db))
    context.db.exec(`CREATE TEMP TRIGGER broken BEFORE INSERT ON payments BEGIN SELECT raise(ABORT, 'the disk is full'); END`)
    expect(() =>
      told(context, order, { kind: 'paid', ref: 'p1', at: thursdayNoon, amount: 4900 }, { id: 'm1' })).toThrow('the disk is full')
    expect(JSON.stringify(wholeStory(context.db))).toBe(before)
    context.db.exec('DROP TRIGGER broken')
    expect(told(context, order, { kind: 'paid', ref: 'p1', at: thursdayNoon, amount: 4900 }, { id: 'm1' }).is).toBe('counted')
  })

  it('a forged, a changed or an old webhook is not looked at', async () => {
    const { context } = await shop()
    const body = writePaymentEvent({ order: 's1', fact: paid(), currency: 'EUR', sale })
    const good = context.webhooks.sign({ id: 'w', at: Date.now(), body })
    for (const [headers, text] of [
      [{ ...good, 'webhook-signature': `v1,${Buffer.alloc(32).toString('base64')}` }, body],
      [good, body.replace('4900', '1')],
      [context.webhooks.sign({ id: 'w', at: Date.now() - 6 * 60_000, body }), body],
      [{}, body],
    ] as const) expect(receiveWebhook(context, headers, text).is).toBe('not-signed')
    expect(findPersonByKey(context.db, 'x@example.com')).toBeUndefined()
    expect(unmatchedPaymentEvents(context.db, 10)).toEqual([])
  })
})

describe('money going back', () => {
  it('in part leaves everything; as a whole takes the tag and the course away', async () => {
    const setting = await furnish(openContext())
    const { context, listId, interestId, courseId } = setting
    await openShop(setting, { gives: gives({ listIds: [listId], tagIds: [interestId], courseId }) })
    const { id, personId } = await buy(context, 'ana@example.com')
    const [payment] = paymentsOfPurchase(context.db, id)
    await giveBack(context, { purchaseId: id, paymentId: payment!.id, amount: 1000 })
    expect(hasTag(context.db, interestId, personId)).toBe(true)
    expect(await problemOf(giveBack(context, { purchaseId: id, paymentId: payment!.id, amount: 3901 }))).toBe('amount')
    await giveBack(context, { purchaseId: id, paymentId: payment!.id, amount: 3900 })
    expect(hasTag(context.db, interestId, personId)).toBe(false)
    expect(openEnrolmentsOfPerson(context.db, personId)).toEqual([])
    expect(membership(context.db, listId, personId)).toBe('joined')
    expect(kindsOf(context, 'ana@example.com').filter(kind => kind === 'refunded')).toHaveLength(2)
    const page = buyerView(context, context.signer.sign('buyer', String(id)), '/b/x')
    expect(page.owned[0]).toMatchObject({ isOver: true, file: null })
  })

  it('of one purchase leaves what a second one of the same gives', async () => {
    const setting = await furnish(openContext())
    const { context, listId, interestId } = setting
    await openShop(setting, { gives: gives({ listIds: [listId], tagIds: [interestId] }) })
    const first = await buy(context, 'ana@example.com')
    await buy(context, 'ana@example.com')
    await giveBack(context, { purchaseId: first.id, paymentId: paymentsOfPurchase(context.db, first.id)[0]!.id, amount: 4900 })
    expect(hasTag(context.db, interestId, first.personId)).toBe(true)
  })
})

describe('a price paid again and again', () => {
  const monthly = { price: { currency: 'EUR', amount: 900, paying: 'monthly' as const, parts: 1 } }

  it('is paid each month at its hour, with a receipt each, until it is ended; then it is theirs to the end of what is paid', async () => {
    const { context } = await shop(monthly)
    const { id } = await buy(context, 'ana@example.com')
    await moveTo(context, Date.UTC(2027, 1, 1))
    expect(
      paymentsOfPurchase(context.db, id).map(({ at, receiptYear, receiptN }) => [new Date(at).toISOString(), receiptYear, receiptN]),
    ).toEqual([
      ['2026-11-26T12:00:00.000Z', 2026, 1], ['2026-12-26T12:00:00.000Z', 2026, 2], ['2027-01-26T12:00:00.000Z', 2027, 1],
    ])
    await endPurchase(context, id)
    await moveTo(context, Date.UTC(2027, 1, 26, 12) - 1)
    expect(findPurchase(context.db, id)!.overAt).toBeNull()
    await moveTo(context, Date.UTC(2027, 5, 1))
    expect(findPurchase(context.db, id)).toMatchObject({ paid: 2700, overAt: Date.UTC(2027, 1, 26, 12) })
    expect(kindsOf(context, 'ana@example.com').filter(kind => ['renewed', 'ending-asked', 'purchase-ended'].includes(kind))).toEqual([
      'renewed', 'renewed', 'ending-asked', 'purchase-ended',
    ])
    expect(await problemOf(endPurchase(context, id))).toMatch(/^now/)
    expect(mailboxOf(context).filter(({ subject }) => subject === 'Your receipt')).toHaveLength(3)
  })

  it('is asked for no more once all of it went back: nobody pays for what they do not have', async () => {
    const { context } = await shop(monthly)
    const { id } = await buy(context, 'ana@example.com')
    expect(await giveBack(context, { purchaseId: id, paymentId: paymentsOfPurchase(context.db, id)[0]!.id, amount: 900 })).toBe(true)
    await moveTo(context, Date.UTC(2027, 3, 1))
    expect(findPurchase(context.db, id)).toMatchObject({ paid: 900, refunded: 900, endedAt: thursdayNoon, overAt: thursdayNoon })
    expect(kindsOf(context, 'ana@example.com')).not.toContain('renewed')
  })

  it('that cannot be paid because the service is away is neither kept nor counted as given up', async () => {
    const { context, offerId } = await shop({ places: 1 })
    const { open } = context.standin
    context.standin.open = () => Promise.reject(new CheckoutProblem('away'))
    expect(await problemOf(press(context, 'ana@example.com'))).toMatch(/^now: The payment service cannot be reached/)
    expect(placesTaken(context.db, offerId, thursdayNoon)).toEqual(NONE_TAKEN)
    context.standin.open = open
    await moveTo(context, thursdayNoon + 3 * DAY)
    expect(kindsOf(context, 'ana@example.com')).not.toContain('checkout-abandoned')
  })

  it('in parts is theirs once all are paid, and a refused part is told', async () => {
    const { context } = await shop({ price: { currency: 'EUR', amount: 10_000, paying: 'parts', parts: 3 } })
    const { id } = await buy(context, 'ana@example.com')
    const { id: refused } = await buy(context, 'rui@example.com', { card: 'works-once' })
    await moveTo(context, Date.UTC(2027, 5, 1))
    expect(paymentsOfPurchase(context.db, id).map(({ amount }) => amount)).toEqual([3334, 3333, 3333])
    expect(findPurchase(context.db, id)).toMatchObject({ paid: 10_000, paidUntilAt: null, overAt: null })
    expect(findPurchase(context.db, refused)).toMatchObject({ paid: 3334, refusedAt: Date.UTC(2026, 11, 26, 12) })
  })

  it('comes to the same by one move of the clock as by many', async () => {
    const stories = await Promise.all([[120 * DAY], Array.from({ length: 120 }, (_, n) => (n + 1) * DAY)].map(async (moves) => {
      const { context } = await shop(monthly)
      await buy(context, 'ana@example.com', { card: 'disputed' })
      await buy(context, 'rui@example.com', { card: 'works-once' })
      await press(context, 'eva@example.com')
      for (const move of moves) await moveTo(context, thursdayNoon + move)
      return wholeStory(context.db)
    }))
    expect(stories[1]).toEqual(stories[0])
    expect(stories[0]!.filter(({ kind }) => kind === 'renewed')).toHaveLength(4)
    expect(stories[0]!.filter(({ kind }) => kind === 'disputed')).toHaveLength(1)
  })
})

async function furnishSecond(context: Workshop, listId: number): Promise<{ courseId: number }> {
  const courseId = createCourse(context, 'The first stitches', 'one')
  saveCourse(context, courseId, 'The first stitches', {
    listId, wayInTagIds: [], again: 'once', steps: [step('s', { kind: 'elapsed', count: 9, unit: 'days', from: 'joining' })],
  })
  await startCourse(context, courseId)
  return { courseId }
}
