/**
 * Every number of the screen of sales against the same counted a second way, one purchase after the other; and each number against the list
 * that it opens.
 */
import { describe, expect, it } from 'vitest'
import fc from 'fast-check'
import { parse } from 'csv-parse/sync'
import { readMoney } from '#core/money/money'
import type { SaleState, SalesPart, SalesQuery } from '#core/views/offers'
import { salesOfOffers } from '#data/sales'
import { salesCsv } from '#usecases/views/exportSales'
import { offerSales } from '#usecases/views/offerSales'
import { coupon, openContext, openShop, told } from './shop'
import { DAY, furnish, moveTo, thursdayNoon } from './workshop'

const DAYS = 40

interface Story {
  by: string, currency: 'EUR' | 'USD' | 'JPY', code: 'EARLY' | 'GUILD' | '', day: number, amount: number, back: 'none' | 'part' | 'all',
  disputed: boolean,
}

/** Few people, so that the same ones buy again, with another coupon and in another currency. */
const story: fc.Arbitrary<Story> = fc.record({
  by: fc.constantFrom('ana', 'rui', 'noor'), currency: fc.constantFrom('EUR', 'USD', 'JPY'), code: fc.constantFrom('EARLY', 'GUILD', ''),
  day: fc.integer({ min: 0, max: DAYS - 1 }),
  amount: fc.integer({ min: 2, max: 90_000 }), back: fc.constantFrom('none', 'part', 'all'), disputed: fc.boolean(),
})

const goneBack = ({ amount, back }: Story): number => ({ none: 0, part: Math.floor(amount / 2), all: amount })[back]

/** Sums of each currency in which something was sold. */
function sums(stories: Story[], amountOf: (story: Story) => number) {
  const each = (['EUR', 'JPY', 'USD'] as const).map(currency => ({ currency, own: stories.filter(story => story.currency === currency) }))
  return each.filter(({ own }) => own.length > 0)
    .map(({ currency, own }) => ({ currency, amount: own.reduce((sum, story) => sum + amountOf(story), 0) }))
}

describe('whatever is sold', () => {
  it('adds up on the screen, behind each number, in the list of offers and in the file', async () => {
    await fc.assert(fc.asyncProperty(fc.array(story, { maxLength: 24 }), fc.constantFrom(7, 28, 90), async (stories, days) => {
      const { context, offerId } = await openShop(await furnish(openContext()))
      for (const code of ['EARLY', 'GUILD']) coupon(context, offerId, { code })
      await moveTo(context, thursdayNoon + DAYS * DAY)
      for (const [n, one] of stories.entries()) {
        const { by, currency, code, amount, disputed } = one
        const [order, at, back] = [`s${n}`, thursdayNoon + one.day * DAY, goneBack(one)]
        expect(told(context, order, {
          kind: 'paid', ref: `${order}.p`, at, amount,
        }, { currency, sale: { offer: 'long-stitch', email: `${by}@example.com`, firstName: '', coupon: code } }).is).toBe('counted')
        if (back > 0) expect(
          told(context, order, { kind: 'refunded', ref: `${order}.r`, of: `${order}.p`, at: at + 1, amount: back }, { currency }).is,
        ).toBe('counted')
        if (disputed) expect(told(context, order, { kind: 'disputed', of: `${order}.p`, at: at + 2 }).is).toBe('counted')
      }
      const ask = (more: Partial<SalesQuery> = {}) =>
        offerSales(context, { id: offerId, days, state: 'bought', couponId: null, source: null, email: null, page: 0, ...more })
      const view = ask()
      // Noon to noon: the day of the first sale is as many calendar days ago as there are days between.
      const own = stories.filter(({ day }) => DAYS - day < days)

      const counted: Partial<Record<SaleState, number>> = {
        bought: own.length, owned: own.filter(({ back }) => back !== 'all').length, over: own.filter(({ back }) => back === 'all').length,
        refunded: own.filter(story => goneBack(story) > 0).length, disputed: own.filter(({ disputed }) => disputed).length, refused: 0,
        began: 0,
      }
      expect(view.counts).toMatchObject(counted)
      for (const state of Object.keys(counted) as SaleState[]) {
        expect([state, ask({ state }).rowCount, ask({ state }).rows.length]).toEqual([state, counted[state], counted[state]])
      }
      expect(view.paid).toEqual(sums(own, ({ amount }) => amount))
      expect(view.refunded).toEqual(sums(own, goneBack).filter(({ amount }) => amount > 0))

      const codes = { 'without a coupon': '', 'EARLY': 'EARLY', 'GUILD': 'GUILD' } as Record<string, string>
      for (const { key, says, bought, money } of view.byCoupon) {
        const part = own.filter(({ code }) => code === codes[says])
        expect([says, bought, money]).toEqual([says, part.length, sums(part, story => story.amount - goneBack(story))])
        expect(ask({ couponId: Number(key) }).rowCount).toBe(bought)
      }
      const whole = (parts: SalesPart[]) => parts.reduce((sum, { bought }) => sum + bought, 0)
      expect([whole(view.byCoupon), whole(view.bySource), whole(view.byEmail)]).toEqual([own.length, own.length, own.length])
      for (const { key, bought } of view.byEmail) expect(ask({ email: key }).rowCount).toBe(bought)

      expect(salesOfOffers(context.db).map(({ currency, amount }) => ({ currency, amount }))).toEqual(
        sums(stories, story => story.amount - goneBack(story)),
      )
      const rows = parse(salesCsv(context, offerId), { columns: true, bom: true }) as Record<string, string>[]
      const cents = (row: Record<string, string>, column: string) => readMoney(row[column]!, row.currency!)
      expect(
        rows.map(row => [row.order, row.email, row.currency, row.coupon, cents(row, 'amount'), cents(row, 'went back')]).sort(),
      ).toEqual(
        stories.map((one, n) => [
          `s${n}`, `${one.by}@example.com`, one.currency, one.code, { ok: true, amount: one.amount }, { ok: true, amount: goneBack(one) },
        ]).sort())
      context.db.close()
    }), { numRuns: 25 })
  })
})
