/** Sales that were made before, or elsewhere, come in from a file. */
import { describe, expect, it } from 'vitest'
import { guessSaleColumns, type SalesSpec } from '#core/exchange/sales'
import { eventsOfPerson } from '#data/events'
import { openEnrolmentsOfPerson } from '#data/enrolments'
import { hasTag } from '#data/marks'
import { emailsOfPerson } from '#data/outbox'
import { findPersonByKey } from '#data/people'
import { newOffer } from '#core/offers/offer'
import { bringPastSales, previewPastSales, type PastSales } from '#usecases/offers/pastSales'
import { salesCsv } from '#usecases/views/exportSales'
import { InputProblem } from '#usecases/problem'
import { bought, openShop, press, told } from './shop'
import { furnish, openContext, thursdayNoon, visit } from './workshop'

const file = (text: string, more: Partial<PastSales> = {}): PastSales => ({
  bytes: new TextEncoder().encode(text), spec: null, unknown: 'leave', starts: false, ...more,
})

async function shop() {
  const setting = await furnish(openContext())
  const { context, listId, interestId, courseId } = setting
  for (const name of ['ana', 'rui']) visit(context, `${name}@example.com`)
  return openShop(setting, { gives: { ...newOffer().gives, listIds: [listId], tagIds: [interestId], endsCourseIds: [courseId] } })
}

const AWKWARD = [
  'Order No;E-Mail;First name;Product;Total paid;Currency;Date;Coupon',
  '1001;ana@example.com;Ana;Long-Stitch Journals;1.049,50 €;EUR;24/03/2026;EARLY',
  '1002;RUI@example.com;"Rui; the ""binder""";long-stitch;49;;2026-04-02T10:30:00+01:00;',
  '1002;rui@example.com;Rui;long-stitch;49;EUR;02/04/2026;',
  '1003;nobody@example.com;;long-stitch;49,00;EUR;02/04/2026;',
  '1004;ana@example.com;;long-stitch;0.001;EUR;02/04/2026;',
  '1005;ana@example.com;;long-stitch;-5;EUR;02/04/2026;',
  '1006;ana@example.com;;Marbled Ducks;5;EUR;02/04/2026;',
  '1007;ana@;;long-stitch;5;EUR;02/04/2026;',
  '1008;ana@example.com;;long-stitch;5;EUR;31/02/2026;',
  '1009;ana@example.com;;long-stitch;5;EUR;24/12/2026;',
  ';ana@example.com;;long-stitch;5;EUR;02/04/2026;',
  '1010;ana@example.com;;long-stitch;500;JPY;02/04/2026;',
  '1011;ana@example.com;;long-stitch;5.5;JPY;02/04/2026;',
].join('\r\n')

describe('a file of past sales', () => {
  it('is told row by row what is wrong with it, and nothing comes in by looking', async () => {
    const { context } = await shop()
    const view = await previewPastSales(context, file(AWKWARD))
    expect(view.spec.columns).toEqual(['order', 'email', 'first-name', 'offer', 'amount', 'currency', 'date', 'coupon'])
    expect([view.rows, view.ready, view.unknown, view.wrong, view.money]).toEqual([
      13, 3, 1, 9, [{ amount: 109_850, currency: 'EUR' }, { amount: 500, currency: 'JPY' }],
    ])
    expect(view.problems).toEqual([
      [4, 'is in row 3 already'], [6, '2 digits after the point'], [7, 'below zero'], [8, 'no offer “Marbled Ducks”'], [9, /./],
      [10, 'not “31/02/2026”'], [11, 'in the future'], [12, 'no order number'], [14, 'no smaller part'],
    ].map(([row, words]) => ({
      row, problem: words instanceof RegExp ? expect.stringMatching(words) as string : expect.stringContaining(words as string) as string,
    })))
    expect(context.db.prepare('SELECT count(*) AS n FROM purchases').get()).toEqual({ n: 0 })
  })

  it('comes in once, dated when it was sold, with what the offer gives; nothing is mailed, and no course begins or ends', async () => {
    const { context, interestId } = await shop()
    const mails = () =>
      ['ana', 'rui'].flatMap(name => emailsOfPerson(context.db, findPersonByKey(context.db, `${name}@example.com`)!.id)).length
    const before = mails()
    expect((await bringPastSales(context, file(AWKWARD))).ready).toBe(3)
    const again = await previewPastSales(context, file(AWKWARD))
    expect([again.ready, again.known]).toEqual([0, 3])
    await expect(bringPastSales(context, file(AWKWARD))).rejects.toThrow(InputProblem)
    const [euro, yen] = bought(context, 'ana@example.com').sort((a, b) => a.id - b.id)
    expect(euro).toMatchObject({ orderKey: '1001', paid: 104_950, currency: 'EUR', cameBy: 'csv', boughtAt: Date.UTC(2026, 2, 24, 12) })
    expect(yen).toMatchObject({ paid: 500, currency: 'JPY' })
    expect(bought(context, 'rui@example.com')[0]).toMatchObject({ boughtAt: Date.UTC(2026, 3, 2, 9, 30), currency: 'EUR' })
    const ana = findPersonByKey(context.db, 'ana@example.com')!.id
    expect(hasTag(context.db, interestId, ana)).toBe(true)
    expect(openEnrolmentsOfPerson(context.db, ana)).toHaveLength(1)
    expect(mails()).toBe(before)
    expect(eventsOfPerson(context.db, ana).filter(({ kind }) => kind === 'bought').map(({ at }) => at)).toContain(Date.UTC(2026, 2, 24, 12))
  })

  it('acts as if it were sold today where that is wanted, and brings unknown buyers in', async () => {
    const { context, courseId } = await shop()
    const view = await bringPastSales(context, file(AWKWARD, { starts: true, unknown: 'bring' }))
    expect([view.ready, view.newcomers]).toEqual([4, 1])
    expect(findPersonByKey(context.db, 'nobody@example.com')).toMatchObject({
      status: 'active', consentAt: null, source: 'offer:long-stitch',
    })
    expect(
      openEnrolmentsOfPerson(context.db, findPersonByKey(context.db, 'ana@example.com')!.id).map(row => row.courseId),
    ).not.toContain(courseId)
  })

  it('leaves alone an order that began here, and takes what is told of one from the file', async () => {
    const { context } = await shop()
    const order = await press(context, 'ana@example.com')
    const text = (key: string) => `order,email,amount,date\n${key},ana@example.com,5,2026-04-02\n`
    expect(await previewPastSales(context, file(text(order)))).toMatchObject({ ready: 0, known: 1 })
    await bringPastSales(context, file(text('s-1')))
    expect(told(context, 's-1', { kind: 'refunded', ref: 'r1', of: 'csv', at: thursdayNoon, amount: 500 }).is).toBe('counted')
    expect(bought(context, 'ana@example.com')[0]).toMatchObject({ refunded: 500, overAt: thursdayNoon })
  })

  it('says what no column says, and does as it is told where the guess was wrong', async () => {
    const { context, offerId } = await shop()
    const text = 'a,b,c,d\n7,ana@example.com,12.50,04/03/2026\n'
    expect((await previewPastSales(context, file(text))).lacks).toEqual(['order', 'email', 'amount', 'date'])
    const spec: SalesSpec = { columns: ['order', 'email', 'amount', 'date'], dateOrder: 'month-day-year', offerId, currency: 'USD' }
    await bringPastSales(context, file(text, { spec }))
    expect(bought(context, 'ana@example.com')[0]).toMatchObject({ paid: 1250, currency: 'USD', boughtAt: Date.UTC(2026, 3, 3, 11) })
  })

  it('is what an export of the same sales can be brought in as again', async () => {
    const { context, offerId } = await shop()
    await bringPastSales(context, file(AWKWARD))
    const text = salesCsv(context, offerId)
    const lines = text.split('\r\n')
    expect([lines[0], lines[2]]).toEqual([
      'order,email,first name,offer,amount,currency,went back,date,coupon,status',
      '1002,rui@example.com,,Long-Stitch Journals,49.00,EUR,0.00,2026-04-02T09:30:00Z,,is theirs',
    ])
    const other = await shop()
    await bringPastSales(other.context, file(text))
    expect(salesCsv(other.context, other.offerId).replaceAll('EARLY', '')).toBe(text.replaceAll('EARLY', ''))
  })

  it.each([
    ['', 'empty'], ['"order,email\n1,a', 'cannot be read'], ['a,b\n'.padEnd(220, ',x'), 'columns'],
  ])('%j is refused as a whole', async (text, words) => {
    const { context } = await shop()
    await expect(previewPastSales(context, file(text))).rejects.toThrow(words)
  })

  it('is understood by the names above its columns', () => {
    expect(guessSaleColumns(['Invoice', 'Customer email', 'Customer', 'Item', 'Sum', 'When', 'Voucher code'])).toEqual([
      'order', 'email', 'first-name', 'offer', 'amount', 'date', 'coupon',
    ])
    expect(guessSaleColumns(['id', 'email', 'email', 'Anything'])).toEqual(['order', 'email', 'nothing', 'nothing'])
  })
})
