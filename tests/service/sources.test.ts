import type { OptInFate } from '#core/audience/condition'
import { describe, expect, it } from 'vitest'
import { NO_TOUCH, type Touch } from '#core/page/touch'
import { peopleWhere } from '#data/audience'
import { toSql } from '#core/audience/sql'
import { touchIdOf } from '#data/sources'
import { optIn } from '#usecases/arrive/optIn'
import { nameSource } from '#usecases/arrive/sources'
import { MOST_TOUCHES_A_DAY, countVisits } from '#usecases/arrive/visits'
import type { House } from '#usecases/house'
import { momentOf } from '#usecases/inner/moment'
import { mergePeople } from '#usecases/know/sameness'
import { InputProblem } from '#usecases/problem'
import { pageResults } from '#usecases/views/pageResults'
import { subscriberView } from '#usecases/views/subscriber'
import { DAY, HOUR, furnish, moveTo, openHouse, thursdayNoon } from './workshop'

const FLYER: Touch = { ...NO_TOUCH, named: 'workshop-flyer' }
const LETTER: Touch = { ...NO_TOUCH, source: 'guild letter', medium: 'email' }
const come = (house: House, email: string, touch?: Touch) => optIn(house, { slug: 'sheet-kit', email, firstName: '', zone: '', ip: null, ...touch && { touch } }).personId
const seen = (house: House, pageId: number, touch: Touch, visits: number, at = house.clock.now()) => countVisits(house, [{ shown: { kind: 'page', id: pageId }, touch, at, visits }])

describe('the results of a page', () => {
  it('are visits and people, by day of the workspace and by what brought them, with a rate and how sure it is', async () => {
    const { house, pageId } = await furnish(openHouse())
    nameSource(house, 'Workshop flyer')
    seen(house, pageId, FLYER, 8)
    seen(house, pageId, LETTER, 40)
    come(house, 'ada@example.com', FLYER)
    come(house, 'bo@example.com', FLYER)
    await moveTo(house, thursdayNoon + DAY)
    seen(house, pageId, NO_TOUCH, 12)
    come(house, 'ada@example.com', LETTER)
    come(house, 'cy@example.com')
    const view = pageResults(house, { id: pageId, days: 28 })
    // Ada came twice, by two ways: one person of the page, and one of each way.
    expect(view).toMatchObject({ visits: 60, optIns: 3, rate: { part: 3, whole: 60 } })
    expect(view.byDay).toHaveLength(28)
    expect(view.byDay.slice(-2).map(({ day, visits, optIns }) => [day, visits, optIns])).toEqual([['2026-11-26', 48, 2], ['2026-11-27', 12, 2]])
    expect(view.bySource.map(({ says, visits, optIns, rate }) => [says, visits, optIns, rate.value])).toEqual([['“Workshop flyer”', 8, 2, 0.25], ['guild letter / email', 40, 1, 0.025], ['a way not told', 12, 1, 1 / 12]])
    expect(view.links).toMatchObject([{ name: 'Workshop flyer', url: expect.stringMatching(/\/p\/sheet-kit\?from=workshop-flyer$/) }])
    expect(pageResults(house, { id: pageId, days: 1 })).toMatchObject({ visits: 12, optIns: 2 })
  })

  it('every number of people is the number a condition finds', async () => {
    const { house, pageId } = await furnish(openHouse())
    for (let n = 0; n < 40; n++) {
      come(house, `p${n % 25}@example.com`, [FLYER, LETTER, undefined][n % 3])
      await moveTo(house, house.clock.now() + 7 * HOUR)
    }
    // Some were asked and have not said yes; some have fetched a file.
    house.db.prepare('UPDATE opt_ins SET confirmed_at = CASE person_id % 3 WHEN 0 THEN NULL ELSE at + 100000 END, fetched_at = CASE person_id % 4 WHEN 0 THEN at + 200000 END').run()
    for (const days of [1, 3, 28]) {
      const view = pageResults(house, { id: pageId, days })
      const find = (touchId: number | null, did?: OptInFate) => peopleWhere(house.db, toSql({ kind: 'opted-in', pageId, within: { kind: 'since', at: view.from }, touchId, did }, momentOf(house.db, house.clock.now()))).length
      expect([find(null), find(null, 'counts'), find(null, 'not-confirmed'), find(null, 'fetched')]).toEqual([view.optIns, view.counted, view.notConfirmed, view.fetched ?? 0])
      if (days === 28) expect(Math.min(view.counted, view.notConfirmed, view.fetched!)).toBeGreaterThan(0)
      for (const row of view.bySource) expect(find(row.touchId), row.says).toBe(row.optIns)
    }
  })

  it('a day begins at midnight of the workspace, also when the clocks change', async () => {
    const { house, pageId } = await furnish(openHouse())
    for (const [at, visits] of [[Date.UTC(2026, 9, 24, 22, 59), 1], [Date.UTC(2026, 9, 24, 23, 0), 2], [Date.UTC(2026, 9, 25, 23, 59), 4], [Date.UTC(2026, 9, 26, 0, 0), 8]] as const) seen(house, pageId, NO_TOUCH, visits, at)
    const byDay = new Map(pageResults(house, { id: pageId, days: 60 }).byDay.map(row => [row.day, row.visits]))
    expect(['2026-10-24', '2026-10-25', '2026-10-26'].map(day => byDay.get(day))).toEqual([1, 6, 8])
  })

  it('a rate is not made up where more opted in than visits were counted', async () => {
    const { house, pageId } = await furnish(openHouse())
    seen(house, pageId, NO_TOUCH, 1)
    for (const name of ['a', 'b']) come(house, `${name}@example.com`)
    expect(pageResults(house, { id: pageId, days: 7 }).rate).toMatchObject({ value: null })
  })

  it('invented addresses cannot fill the house: past so many in a day they are counted as others, and none is lost', async () => {
    const { house, pageId } = await furnish(openHouse())
    for (let n = 0; n < MOST_TOUCHES_A_DAY + 50; n++) seen(house, pageId, { ...NO_TOUCH, source: `made up ${n}` }, 2)
    seen(house, pageId, { ...NO_TOUCH, source: 'made up 3' }, 5)
    const { visits, bySource } = pageResults(house, { id: pageId, days: 7 })
    expect(visits).toBe(2 * (MOST_TOUCHES_A_DAY + 50) + 5)
    expect(bySource.length).toBeLessThanOrEqual(MOST_TOUCHES_A_DAY + 1)
    expect(house.db.prepare('SELECT count(*) FROM touches').pluck().get()).toBe(MOST_TOUCHES_A_DAY + 1)
    expect(bySource.find(row => row.says === 'others')!.visits).toBe(100)
    expect(bySource.find(row => row.says === 'made up 3')!.visits).toBe(7)
    expect(() => countVisits(house, [{ shown: { kind: 'page', id: 999 }, touch: NO_TOUCH, at: 0, visits: 1 }])).not.toThrow()
  })
})

describe('what brought somebody', () => {
  it('is kept as the first and the latest, and what is merged keeps the first of the two', async () => {
    const { house } = await furnish(openHouse())
    const ada = come(house, 'ada@example.com', FLYER)
    await moveTo(house, thursdayNoon + DAY)
    const other = come(house, 'ada@example.org', LETTER)
    come(house, 'ada@example.com', NO_TOUCH)
    expect(subscriberView(house, ada).brought).toEqual({ first: '“workshop-flyer”', latest: 'a way not told' })
    await moveTo(house, thursdayNoon + 2 * DAY)
    come(house, 'ada@example.org', { ...NO_TOUCH, referrer: 'forum.example.net' })
    mergePeople(house, other, ada, 'ada@example.com')
    expect(subscriberView(house, other).brought).toEqual({ first: '“workshop-flyer”', latest: 'the site forum.example.net' })
  })

  it('one touch is one row, whoever tells it', async () => {
    const { house } = await furnish(openHouse())
    expect(touchIdOf(house.db, LETTER)).toBe(touchIdOf(house.db, { ...LETTER }))
    expect(touchIdOf(house.db, LETTER)).not.toBe(touchIdOf(house.db, { ...LETTER, term: 'x' }))
  })

  it('a source needs a name of its own, and gets a word of its own', async () => {
    const { house, pageId } = await furnish(openHouse())
    for (const name of ['Fair / stand 7', 'fair stand 7']) nameSource(house, name)
    for (const name of ['', '  ', 'FAIR STAND 7']) expect(() => nameSource(house, name), name).toThrow(InputProblem)
    expect(new Set(pageResults(house, { id: pageId, days: 7 }).links.map(link => link.url)).size).toBe(2)
  })
})
