/** What buying has to do with everything else: emails that sell, records that are merged or erased, and what brought a buyer. */
import { describe, expect, it } from 'vitest'
import { type OfferContent } from '#core/offers/offer'
import { emailsOfPerson } from '#data/outbox'
import { choicesOf, chooseOffer } from '#usecases/arrive/choices'
import { sayNoMore } from '#usecases/offers/noMore'
import type { MessageContent } from '#core/message/content'
import { slugSoldBy } from '#core/offers/selling'
import { buyerView } from '#usecases/offers/buyer'
import { InputProblem, NotThere } from '#usecases/problem'
import { recordClick } from '#usecases/reading/click'
import { erasePerson } from '#usecases/know/erase'
import { mergePeople } from '#usecases/know/sameness'
import { saveSelling } from '#usecases/settings/selling'
import { offerLines } from '#usecases/views/offers'
import { offerSales } from '#usecases/views/offerSales'
import { subscriberView } from '#usecases/views/subscriber'
import { sellingOf } from '#data/selling'
import type { SalesQuery } from '#core/views/offers'
import { findPersonByKey } from '#data/people'
import { bought, buy, coupon, kindsOf, openContext, openShop, press, statusOf, told } from './shop'
import { DAY, email, furnish, HOUR, moveTo, step, thursdayNoon, visit, type Workshop } from './workshop'

const shop = async (content: Partial<OfferContent> = {}) => openShop(await furnish(openContext()), content)

describe('an email that sells', () => {
  const linked = (more: Partial<MessageContent> = {}) => email('pitch', {
    body: { type: 'doc', content: [
      { type: 'paragraph', content: [{ type: 'text', text: 'See it' }] },
      { type: 'button', attrs: { label: 'See it', url: 'http://localhost:3000/practice/s/long-stitch?from=pitch', tagId: null } },
    ] },
    ...more,
  })
  /** A course that sells the offer a day after joining, and says something else a day after that. */
  async function selling(more: Partial<MessageContent> = {}) {
    const setting = await furnish(openContext(), () => [
      step('hello', { kind: 'at-once' }), step('pitch', { kind: 'elapsed', count: 1, unit: 'days', from: 'previous' }, linked(more)),
      step('bye', { kind: 'elapsed', count: 1, unit: 'days', from: 'previous' }),
    ])
    return openShop(setting)
  }
  const gotBy = (context: Workshop, personId: number) => emailsOfPerson(context.db, personId).filter(({ kind }) => kind === 'course')
    .map(({ itemId: stepId, status, reason }) => [stepId, status === 'handed over' ? 'sent' : reason]).reverse()

  it('is held back from who has it and from who said no more, and the course goes on', async () => {
    const { context, offerId } = await selling()
    const [ana, rui, eva] = ['ana', 'rui', 'eva'].map(name => visit(context, `${name}@example.com`)) as [number, number, number]
    await buy(context, 'ana@example.com')
    sayNoMore(context, rui, offerId)
    await moveTo(context, thursdayNoon + 3 * DAY)
    expect(gotBy(context, ana)).toEqual([['hello', 'sent'], ['pitch', 'owns-it'], ['bye', 'sent']])
    expect(gotBy(context, rui)).toEqual([['hello', 'sent'], ['pitch', 'said-no-more'], ['bye', 'sent']])
    expect(gotBy(context, eva)).toEqual([['hello', 'sent'], ['pitch', 'sent'], ['bye', 'sent']])
  })

  it('goes to everybody where it says that it sells nothing', async () => {
    const { context } = await selling({ sellsNothing: true })
    const ana = visit(context, 'ana@example.com')
    await buy(context, 'ana@example.com')
    await moveTo(context, thursdayNoon + 3 * DAY)
    expect(gotBy(context, ana)).toEqual([['hello', 'sent'], ['pitch', 'sent'], ['bye', 'sent']])
  })

  it('lets its reader say no more of it on their own page, and take that back', async () => {
    const { context, offerId } = await selling()
    const eva = visit(context, 'eva@example.com')
    await moveTo(context, thursdayNoon + DAY)
    const pitch = emailsOfPerson(context.db, eva).find(({ itemId: stepId }) => stepId === 'pitch')!
    expect(choicesOf(context, pitch.id).offers).toEqual([{ id: offerId, name: 'Long-Stitch Journals', noMore: false }])
    chooseOffer(context, pitch.id, offerId, 'no-more')
    chooseOffer(context, pitch.id, offerId, 'no-more')
    expect(choicesOf(context, pitch.id).offers[0]!.noMore).toBe(true)
    chooseOffer(context, pitch.id, offerId, 'again')
    expect(kindsOf(context, 'eva@example.com').filter(kind => kind.includes('no-more'))).toEqual(['said-no-more', 'took-back-no-more'])
    expect(() => chooseOffer(context, pitch.id, 99, 'no-more')).toThrow(InputProblem)
    expect(statusOf(context, 'eva@example.com')).toBe('active')
  })

  it.each([
    ['http://localhost:3000/practice/s/long-stitch', 'long-stitch'],
    ['http://localhost:3000/practice/s/long-stitch/?code=EARLY#x', 'long-stitch'],
    ['https://localhost:3000/practice/s/long-stitch', 'long-stitch'],
    ['http://localhost:3000/s/long-stitch', null], ['http://example.com/practice/s/long-stitch', null],
    ['http://localhost:3000/practice/p/long-stitch', null], ['http://localhost:3000/practice/s/', null], [
      'not an address', null,
    ],
  ])('%s leads to the page of %s', (url, slug) => {
    expect(slugSoldBy(url, 'http://localhost:3000/practice')).toBe(slug)
  })
})

describe('what a purchase is part of', () => {
  it('goes along when two records are merged: both purchases are the one’s, and so is what was said no more', async () => {
    const { context, offerId } = await shop()
    const [one, other] = [await buy(context, 'ana@example.com'), await buy(context, 'ana.b@example.com')]
    sayNoMore(context, other.personId, offerId)
    mergePeople(context, one.personId, other.personId, 'ana.b@example.com')
    expect(bought(context, 'ana@example.com')).toHaveLength(2)
    expect(subscriberView(context, one.personId).noMore).toHaveLength(1)
    // The address in the receipt of the other opens the page of both.
    expect(buyerView(context, context.signer.sign('buyer', String(other.id)), '/b/x').owned).toHaveLength(2)
  })

  it('is kept without whom, once they are erased: the money stays counted, and their page is gone', async () => {
    const { context, offerId } = await shop()
    const { id, personId, orderKey } = await buy(context, 'ana@example.com', { firstName: 'Ana' })
    erasePerson(context, personId)
    expect(offerLines(context)[0]!.money).toEqual([{ amount: 4900, currency: 'EUR' }])
    expect(() => buyerView(context, context.signer.sign('buyer', String(id)), '/b/x')).toThrow(NotThere)
    expect(JSON.stringify([
      'checkouts', 'purchases', 'payments', 'payment_events', 'practice_orders', 'unmatched_payment_events',
    ].map(table => context.db.prepare(`SELECT * FROM ${table}`).all()))).not.toMatch(/ana@|"Ana"|192\.0\.2/)
    // Who is erased while they pay has paid all the same, and is not brought back by it.
    const late = await press(context, 'eva@example.com')
    erasePerson(context, (context.db.prepare('SELECT person_id AS id FROM checkouts ORDER BY id DESC').get() as { id: number }).id)
    expect(told(context, late, { kind: 'paid', ref: 'p', at: context.clock.now(), amount: 4900 }).is).toBe('counted')
    expect([offerLines(context)[0]!.money[0]!.amount, findPersonByKey(context.db, 'eva@example.com')]).toEqual([9800, undefined])
    await moveTo(context, thursdayNoon + HOUR)
    // The service may still tell of it.
    expect(
      told(context, orderKey, { kind: 'refunded', ref: 'late', of: `${orderKey}.p1`, at: context.clock.now(), amount: 900 }).is,
    ).toBe('counted')
    expect(
      offerSales(context, { id: offerId, days: 7, state: 'bought', couponId: null, source: null, email: null, page: 0 }).rows.at(-1),
    ).toMatchObject({ person: 'someone who was erased', amount: { amount: 4000, currency: 'EUR' } })
  })

  it('is found by coupon, by source and by the last click before it, within the days that are set', async () => {
    const { context, offerId } = await shop()
    coupon(context, offerId)
    const click = (address: string, at: number) => {
      const { outboxId } = context.db.prepare(`
        SELECT o.id AS outboxId FROM outbox o JOIN people p ON p.id = o.person_id WHERE p.address_key = ? AND o.kind = 'course'
        ORDER BY o.id LIMIT 1`).get(address) as { outboxId: number }
      recordClick(context, outboxId, 0, { agent: 'Firefox', robot: false, certain: true })
      expect(context.clock.now()).toBe(at)
    }
    for (const name of ['ana', 'rui']) visit(context, `${name}@example.com`)
    await moveTo(context, thursdayNoon + HOUR)
    for (const name of ['ana', 'rui']) click(`${name}@example.com`, thursdayNoon + HOUR)
    await moveTo(context, thursdayNoon + 2 * DAY)
    await buy(context, 'ana@example.com', { code: 'EARLY' })
    await moveTo(context, thursdayNoon + 7 * DAY + HOUR + 1)
    await buy(context, 'rui@example.com')
    const ask = (more: Partial<SalesQuery> = {}) =>
      offerSales(context, { id: offerId, days: 28, state: 'bought', couponId: null, source: null, email: null, page: 0, ...more })
    const { byCoupon, bySource, byEmail, paid, rate } = ask()
    expect(byCoupon.map(({ says, bought, money }) => [says, bought, money[0]!.amount])).toEqual([
      ['EARLY', 1, 3430], ['without a coupon', 1, 4900],
    ])
    expect(bySource.map(({ says, bought }) => [says, bought])).toEqual([['unknown', 2]])
    expect(byEmail.map(({ says, bought }) => [says, bought])).toEqual([['Fold, Sew, Cover: one', 1], ['no click in an email before', 1]])
    expect([paid, rate.value]).toEqual([[{ amount: 8330, currency: 'EUR' }], null])
    const found = ask({ email: byEmail[0]!.key })
    expect([found.rowCount, found.rows.map(({ person }) => person)]).toEqual([1, ['ana@example.com']])
    expect(ask({ couponId: 0 }).rows.map(({ person }) => person)).toEqual(['rui@example.com'])
    saveSelling(context, { ...sellingOf(context.db), clickDays: 8 }, () => null)
    expect(ask().byEmail.map(({ says, bought }) => [says, bought])).toEqual([['Fold, Sew, Cover: one', 2]])
  })
})
