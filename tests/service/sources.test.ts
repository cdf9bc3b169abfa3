import type { OptInFate } from '#core/audience/condition'
import { describe, expect, it } from 'vitest'
import { NO_TOUCH, type Touch } from '#core/page/touch'
import { peopleWhere } from '#data/audience'
import { toSql } from '#core/audience/sql'
import { touchIdOf } from '#data/sources'
import { optIn } from '#usecases/arrive/optIn'
import { nameSource } from '#usecases/arrive/sources'
import { MOST_TOUCHES_A_DAY, countVisits } from '#usecases/arrive/visits'
import type { WorkspaceContext } from '#usecases/context'
import { momentOf } from '#usecases/inner/moment'
import { mergePeople } from '#usecases/know/sameness'
import { InputProblem } from '#usecases/problem'
import { pageResults } from '#usecases/views/pageResults'
import { subscriberView } from '#usecases/views/subscriber'
import { DAY, HOUR, furnish, moveTo, openContext, thursdayNoon } from './workshop'

const FLYER: Touch = { ...NO_TOUCH, named: 'workshop-flyer' }
const LETTER: Touch = { ...NO_TOUCH, source: 'guild letter', medium: 'email' }
const come = (context: WorkspaceContext, email: string, touch?: Touch) =>
  optIn(context, { slug: 'sheet-kit', email, firstName: '', zone: '', ip: null, ...touch && { touch } }).personId
const seen = (context: WorkspaceContext, pageId: number, touch: Touch, visits: number, at = context.clock.now()) =>
  countVisits(context, [{ shown: { kind: 'page', id: pageId }, touch, at, visits }])

describe('the results of a page', () => {
  it('are visits and people, by day of the workspace and by what brought them, with a rate and how sure it is', async () => {
    const { context, pageId } = await furnish(openContext())
    nameSource(context, 'Workshop flyer')
    seen(context, pageId, FLYER, 8)
    seen(context, pageId, LETTER, 40)
    come(context, 'ada@example.com', FLYER)
    come(context, 'bo@example.com', FLYER)
    await moveTo(context, thursdayNoon + DAY)
    seen(context, pageId, NO_TOUCH, 12)
    come(context, 'ada@example.com', LETTER)
    come(context, 'cy@example.com')
    const view = pageResults(context, { id: pageId, days: 28 })
    // Ada came twice, by two ways: one person of the page, and one of each way.
    expect(view).toMatchObject({ visits: 60, optIns: 3, rate: { part: 3, whole: 60 } })
    expect(view.byDay).toHaveLength(28)
    expect(view.byDay.slice(-2).map(({ day, visits, optIns }) => [day, visits, optIns])).toEqual([
      ['2026-11-26', 48, 2], ['2026-11-27', 12, 2],
    ])
    expect(view.bySource.map(({ says, visits, optIns, rate }) => [says, visits, optIns, rate.value])).toEqual([
      ['“Workshop flyer”', 8, 2, 0.25], ['guild letter / email', 40, 1, 0.025], ['unknown', 12, 1, 1 / 12],
    ])
    expect(view.links).toMatchObject([{ name: 'Workshop flyer', url: expect.stringMatching(/\/p\/sheet-kit\?from=workshop-flyer$/) }])
    expect(pageResults(context, { id: pageId, days: 1 })).toMatchObject({ visits: 12, optIns: 2 })
  })

  it('every number of people is the number a condition finds', async () => {
    const { context, pageId } = await furnish(openContext())
    for (let n = 0; n < 40; n++) {
      come(context, `p${n % 25}@example.com`, [FLYER, LETTER, undefined][n % 3])
      await moveTo(context, context.clock.now() + 7 * HOUR)
    }
    // Some were asked and have not said yes; some have fetched a file.
    context.db.prepare(`
      UPDATE opt_ins SET confirmed_at = CASE person_id % 3 WHEN 0 THEN NULL ELSE at + 100000 END, fetched_at =
      CASE person_id % 4 WHEN 0 THEN at + 200000 END`).run()
    for (const days of [1, 3, 28]) {
      const view = pageResults(context, { id: pageId, days })
      const find = (touchId: number | null, did?: OptInFate) => peopleWhere(context.db, toSql(
        { kind: 'opted-in', pageId, within: { kind: 'since', at: view.from }, touchId, did }, momentOf(context.db, context.clock.now()),
      )).length
      expect([find(null), find(null, 'counts'), find(null, 'not-confirmed'), find(null, 'fetched')]).toEqual([
        view.optIns, view.counted, view.notConfirmed, view.fetched ?? 0,
      ])
      if (days === 28) expect(Math.min(view.counted, view.notConfirmed, view.fetched!)).toBeGreaterThan(0)
      for (const row of view.bySource) expect(find(row.touchId), row.says).toBe(row.optIns)
    }
  })

  it('a day begins at midnight of the workspace, also when the clocks change', async () => {
    const { context, pageId } = await furnish(openContext())
    for (const [at, visits] of [
      [Date.UTC(2026, 9, 24, 22, 59), 1], [Date.UTC(2026, 9, 24, 23, 0), 2], [Date.UTC(2026, 9, 25, 23, 59), 4],
      [Date.UTC(2026, 9, 26, 0, 0), 8],
    ] as const) seen(context, pageId, NO_TOUCH, visits, at)
    const byDay = new Map(pageResults(context, { id: pageId, days: 60 }).byDay.map(row => [row.day, row.visits]))
    expect(['2026-10-24', '2026-10-25', '2026-10-26'].map(day => byDay.get(day))).toEqual([1, 6, 8])
  })

  it('a rate is not made up where more opted in than visits were counted', async () => {
    const { context, pageId } = await furnish(openContext())
    seen(context, pageId, NO_TOUCH, 1)
    for (const name of ['a', 'b']) come(context, `${name}@example.com`)
    expect(pageResults(context, { id: pageId, days: 7 }).rate).toMatchObject({ value: null })
  })

  it('invented addresses cannot fill the database: past so many in a day they are counted as others, and none is lost', async () => {
    const { context, pageId } = await furnish(openContext())
    for (let n = 0; n < MOST_TOUCHES_A_DAY + 50; n++) seen(context, pageId, { ...NO_TOUCH, source: `made up ${n}` }, 2)
    seen(context, pageId, { ...NO_TOUCH, source: 'made up 3' }, 5)
    const { visits, bySource } = pageResults(context, { id: pageId, days: 7 })
    expect(visits).toBe(2 * (MOST_TOUCHES_A_DAY + 50) + 5)
    expect(bySource.length).toBeLessThanOrEqual(MOST_TOUCHES_A_DAY + 1)
    expect(context.db.prepare('SELECT count(*) FROM touches').pluck().get()).toBe(MOST_TOUCHES_A_DAY + 1)
    expect(bySource.find(row => row.says === 'others')!.visits).toBe(100)
    expect(bySource.find(row => row.says === 'made up 3')!.visits).toBe(7)
    expect(() => countVisits(context, [{ shown: { kind: 'page', id: 999 }, touch: NO_TOUCH, at: 0, visits: 1 }])).not.toThrow()
  })
})

describe('what brought somebody', () => {
  it('is kept as the first and the latest, and what is merged keeps the first of the two', async () => {
    const { context } = await furnish(openContext())
    const ada = come(context, 'ada@example.com', FLYER)
    await moveTo(context, thursdayNoon + DAY)
    const other = come(context, 'ada@example.org', LETTER)
    come(context, 'ada@example.com', NO_TOUCH)
    expect(subscriberView(context, ada).brought).toEqual({ first: '“workshop-flyer”', latest: 'unknown' })
    await moveTo(context, thursdayNoon + 2 * DAY)
    come(context, 'ada@example.org', { ...NO_TOUCH, referrer: 'forum.example.net' })
    mergePeople(context, other, ada, 'ada@example.com')
    expect(subscriberView(context, other).brought).toEqual({ first: '“workshop-flyer”', latest: 'the site forum.example.net' })
  })

  it('one touch is one row, whoever tells it', async () => {
    const { context } = await furnish(openContext())
    expect(touchIdOf(context.db, LETTER)).toBe(touchIdOf(context.db, { ...LETTER }))
    expect(touchIdOf(context.db, LETTER)).not.toBe(touchIdOf(context.db, { ...LETTER, term: 'x' }))
  })

  it('a source needs a name of its own, and gets a word of its own', async () => {
    const { context, pageId } = await furnish(openContext())
    for (const name of ['Fair / stand 7', 'fair stand 7']) nameSource(context, name)
    for (const name of ['', '  ', 'FAIR STAND 7']) expect(() => nameSource(context, name), name).toThrow(InputProblem)
    expect(new Set(pageResults(context, { id: pageId, days: 7 }).links.map(link => link.url)).size).toBe(2)
  })
})
