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
import { bought, buy, coupon, kindsOf, openHouse, openShop, press, statusOf, told } from './shop'
import { DAY, email, furnish, HOUR, moveTo, step, thursdayNoon, visit, type Workshop } from './workshop'

const shop = async (content: Partial<OfferContent> = {}) => openShop(await furnish(openHouse()), content)

describe('an email that sells', () => {
  const linked = (more: Partial<MessageContent> = {}) => email('pitch', {
    body: { type: 'doc', content: [{ type: 'paragraph', content: [{ type: 'text', text: 'See it' }] }, { type: 'button', attrs: { label: 'See it', url: 'http://localhost:3000/practice/s/long-stitch?from=pitch', tagId: null } }] }, ...more,
  })
  /** A course that sells the offer a day after joining, and says something else a day after that. */
  async function selling(more: Partial<MessageContent> = {}) {
    const setting = await furnish(openHouse(), () => [
      step('hello', { kind: 'at-once' }), step('pitch', { kind: 'elapsed', count: 1, unit: 'days', from: 'previous' }, linked(more)), step('bye', { kind: 'elapsed', count: 1, unit: 'days', from: 'previous' }),
    ])
    return openShop(setting)
  }
  const gotBy = (house: Workshop, personId: number) => emailsOfPerson(house.db, personId).filter(({ kind }) => kind === 'course').map(({ stepId, status, reason }) => [stepId, status === 'handed over' ? 'sent' : reason]).reverse()

  it('is held back from who has it and from who said no more, and the course goes on', async () => {
    const { house, offerId } = await selling()
    const [ana, rui, eva] = ['ana', 'rui', 'eva'].map(name => visit(house, `${name}@example.com`)) as [number, number, number]
    await buy(house, 'ana@example.com')
    sayNoMore(house, rui, offerId)
    await moveTo(house, thursdayNoon + 3 * DAY)
    expect(gotBy(house, ana)).toEqual([['hello', 'sent'], ['pitch', 'owns-it'], ['bye', 'sent']])
    expect(gotBy(house, rui)).toEqual([['hello', 'sent'], ['pitch', 'said-no-more'], ['bye', 'sent']])
    expect(gotBy(house, eva)).toEqual([['hello', 'sent'], ['pitch', 'sent'], ['bye', 'sent']])
  })

  it('goes to everybody where it says that it sells nothing', async () => {
    const { house } = await selling({ sellsNothing: true })
    const ana = visit(house, 'ana@example.com')
    await buy(house, 'ana@example.com')
    await moveTo(house, thursdayNoon + 3 * DAY)
    expect(gotBy(house, ana)).toEqual([['hello', 'sent'], ['pitch', 'sent'], ['bye', 'sent']])
  })

  it('lets its reader say no more of it on their own page, and take that back', async () => {
    const { house, offerId } = await selling()
    const eva = visit(house, 'eva@example.com')
    await moveTo(house, thursdayNoon + DAY)
    const pitch = emailsOfPerson(house.db, eva).find(({ stepId }) => stepId === 'pitch')!
    expect(choicesOf(house, pitch.id).offers).toEqual([{ id: offerId, name: 'Long-Stitch Journals', noMore: false }])
    chooseOffer(house, pitch.id, offerId, 'no-more')
    chooseOffer(house, pitch.id, offerId, 'no-more')
    expect(choicesOf(house, pitch.id).offers[0]!.noMore).toBe(true)
    chooseOffer(house, pitch.id, offerId, 'again')
    expect(kindsOf(house, 'eva@example.com').filter(kind => kind.includes('no-more'))).toEqual(['said-no-more', 'took-back-no-more'])
    expect(() => chooseOffer(house, pitch.id, 99, 'no-more')).toThrow(InputProblem)
    expect(statusOf(house, 'eva@example.com')).toBe('active')
  })

  it.each([
    ['http://localhost:3000/practice/s/long-stitch', 'long-stitch'], ['http://localhost:3000/practice/s/long-stitch/?code=EARLY#x', 'long-stitch'], ['https://localhost:3000/practice/s/long-stitch', 'long-stitch'],
    ['http://localhost:3000/s/long-stitch', null], ['http://example.com/practice/s/long-stitch', null], ['http://localhost:3000/practice/p/long-stitch', null], ['http://localhost:3000/practice/s/', null], ['not an address', null],
  ])('%s leads to the page of %s', (url, slug) => {
    expect(slugSoldBy(url, 'http://localhost:3000/practice')).toBe(slug)
  })
})

describe('what a purchase is part of', () => {
  it('goes along when two records are merged: both purchases are the one’s, and so is what was said no more', async () => {
    const { house, offerId } = await shop()
    const [one, other] = [await buy(house, 'ana@example.com'), await buy(house, 'ana.b@example.com')]
    sayNoMore(house, other.personId, offerId)
    mergePeople(house, one.personId, other.personId, 'ana.b@example.com')
    expect(bought(house, 'ana@example.com')).toHaveLength(2)
    expect(subscriberView(house, one.personId).noMore).toHaveLength(1)
    // The address in the receipt of the other opens the page of both.
    expect(buyerView(house, house.signer.sign('buyer', String(other.id)), '/b/x').owned).toHaveLength(2)
  })

  it('is kept without whom, once they are erased: the money stays counted, and their page is gone', async () => {
    const { house, offerId } = await shop()
    const { id, personId, orderKey } = await buy(house, 'ana@example.com', { firstName: 'Ana' })
    erasePerson(house, personId)
    expect(offerLines(house)[0]!.money).toEqual([{ amount: 4900, currency: 'EUR' }])
    expect(() => buyerView(house, house.signer.sign('buyer', String(id)), '/b/x')).toThrow(NotThere)
    expect(JSON.stringify(['checkouts', 'purchases', 'payments', 'tellings', 'practice_orders', 'told_in_vain'].map(table => house.db.prepare(`SELECT * FROM ${table}`).all()))).not.toMatch(/ana@|"Ana"|192\.0\.2/)
    // Who is erased while they pay has paid all the same, and is not brought back by it.
    const late = await press(house, 'eva@example.com')
    erasePerson(house, (house.db.prepare('SELECT person_id AS id FROM checkouts ORDER BY id DESC').get() as { id: number }).id)
    expect(told(house, late, { kind: 'paid', ref: 'p', at: house.clock.now(), amount: 4900 }).is).toBe('counted')
    expect([offerLines(house)[0]!.money[0]!.amount, findPersonByKey(house.db, 'eva@example.com')]).toEqual([9800, undefined])
    await moveTo(house, thursdayNoon + HOUR)
    // The service may still tell of it.
    expect(told(house, orderKey, { kind: 'refunded', ref: 'late', of: `${orderKey}.p1`, at: house.clock.now(), amount: 900 }).is).toBe('counted')
    expect(offerSales(house, { id: offerId, days: 7, state: 'bought', couponId: null, source: null, email: null, page: 0 }).rows.at(-1)).toMatchObject({ person: 'somebody who was erased', amount: { amount: 4000, currency: 'EUR' } })
  })

  it('is found by coupon, by source and by the last click before it, within the days that are set', async () => {
    const { house, offerId } = await shop()
    coupon(house, offerId)
    const click = (address: string, at: number) => {
      const { outboxId } = house.db.prepare(`SELECT o.id AS outboxId FROM outbox o JOIN people p ON p.id = o.person_id WHERE p.address_key = ? AND o.kind = 'course' ORDER BY o.id LIMIT 1`).get(address) as { outboxId: number }
      recordClick(house, outboxId, 0, { agent: 'Firefox', robot: false, certain: true })
      expect(house.clock.now()).toBe(at)
    }
    for (const name of ['ana', 'rui']) visit(house, `${name}@example.com`)
    await moveTo(house, thursdayNoon + HOUR)
    for (const name of ['ana', 'rui']) click(`${name}@example.com`, thursdayNoon + HOUR)
    await moveTo(house, thursdayNoon + 2 * DAY)
    await buy(house, 'ana@example.com', { code: 'EARLY' })
    await moveTo(house, thursdayNoon + 7 * DAY + HOUR + 1)
    await buy(house, 'rui@example.com')
    const ask = (more: Partial<SalesQuery> = {}) => offerSales(house, { id: offerId, days: 28, state: 'bought', couponId: null, source: null, email: null, page: 0, ...more })
    const { byCoupon, bySource, byEmail, paid, rate } = ask()
    expect(byCoupon.map(({ says, bought, money }) => [says, bought, money[0]!.amount])).toEqual([['EARLY', 1, 3430], ['without a coupon', 1, 4900]])
    expect(bySource.map(({ says, bought }) => [says, bought])).toEqual([['a way not told', 2]])
    expect(byEmail.map(({ says, bought }) => [says, bought])).toEqual([['Fold, Sew, Cover: one', 1], ['no click in an email before', 1]])
    expect([paid, rate.value]).toEqual([[{ amount: 8330, currency: 'EUR' }], null])
    const found = ask({ email: byEmail[0]!.key })
    expect([found.rowCount, found.rows.map(({ person }) => person)]).toEqual([1, ['ana@example.com']])
    expect(ask({ couponId: 0 }).rows.map(({ person }) => person)).toEqual(['rui@example.com'])
    saveSelling(house, { ...sellingOf(house.db), clickDays: 8 }, () => null)
    expect(ask().byEmail.map(({ says, bought }) => [says, bought])).toEqual([['Fold, Sew, Cover: one', 2]])
  })
})
