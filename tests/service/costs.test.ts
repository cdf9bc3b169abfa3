/** What sources brought over all pages, and what it cost. */
import { describe, expect, it } from 'vitest'
import { peopleFrom } from '#core/audience/fromSource'
import { toSql } from '#core/audience/sql'
import { NO_TOUCH, sourceOf, type SourceKey, type Touch } from '#core/page/touch'
import { peopleWhere } from '#data/audience'
import { workspaceOf } from '#data/workspace'
import { confirm } from '#usecases/arrive/confirm'
import { saveSourceCosts } from '#usecases/arrive/costs'
import { leave } from '#usecases/arrive/leave'
import { optIn } from '#usecases/arrive/optIn'
import { createPage, publishPage, savePage } from '#usecases/arrive/pages'
import { nameSource } from '#usecases/arrive/sources'
import { countVisits } from '#usecases/arrive/visits'
import type { WorkspaceContext } from '#usecases/context'
import { momentOf } from '#usecases/inner/moment'
import { InputProblem } from '#usecases/problem'
import { inventReader } from '#usecases/practice/inventReader'
import { saveSettings } from '#usecases/settings/workspace'
import { exportWorkspace } from '#usecases/views/exportWorkspace'
import { pageView } from '#usecases/views/pages'
import { sourceCosts, sourcesView } from '#usecases/views/sources'
import { emailsOfPerson } from '#data/outbox'
import { DAY, furnish, HOUR, moveTo, openContext, thursdayNoon, type Setting } from './workshop'

const FLYER: Touch = { ...NO_TOUCH, named: 'workshop-flyer' }
const flyer: SourceKey = sourceOf(FLYER)
const ads: SourceKey = { kind: 'utm', word: 'ads' }
const ad = (campaign: string): Touch => ({ ...NO_TOUCH, source: 'ads', campaign })
const come = (context: WorkspaceContext, email: string, touch: Touch, slug = 'sheet-kit') =>
  optIn(context, { slug, email, firstName: '', zone: '', ip: null, touch }).personId
const lineOf = (context: WorkspaceContext, source: SourceKey, months = 3) =>
  sourcesView(context, { months }).lines.find(line => line.source.kind === source.kind && line.source.word === source.word)
const spend = (context: WorkspaceContext, source: SourceKey, month: string, typed: string) =>
  saveSourceCosts(context, { source, months: [{ month, typed }] })

/** Besides the sheet kit, a page that asks for a yes. */
async function twoPages(): Promise<Setting> {
  const setting = await furnish(openContext())
  const { context, listId } = setting
  nameSource(context, 'Workshop flyer')
  const id = createPage(context, 'Asking')
  const { name, draft } = pageView(context, id)
  savePage(context, id, {
    name, slug: 'asking', draft: { ...draft, listIds: [listId], confirming: { ...draft.confirming, who: 'everybody' } },
  })
  await publishPage(context, id)
  return setting
}

describe('what a source brought', () => {
  it('is counted over all pages and campaigns, by what brought somebody first, from their yes on', async () => {
    const { context, pageId } = await twoPages()
    countVisits(context, [
      { shown: { kind: 'page', id: pageId }, touch: ad('spring'), at: thursdayNoon, visits: 30 },
      { shown: { kind: 'page', id: pageId }, touch: ad('autumn'), at: thursdayNoon, visits: 12 },
    ])
    come(context, 'a@example.com', ad('spring'))
    come(context, 'b@example.com', ad('autumn'))
    come(context, 'b@example.com', FLYER)
    const waiting = come(context, 'c@example.com', ad('spring'), 'asking')
    await moveTo(context, thursdayNoon + HOUR)
    expect(lineOf(context, ads)).toMatchObject({ visits: 42, subscribers: 2 })
    expect(lineOf(context, flyer)).toMatchObject({ says: '“Workshop flyer”', visits: 0, subscribers: 0 })
    confirm(context, emailsOfPerson(context.db, waiting)[0]!.occasionId)
    expect(lineOf(context, ads)).toMatchObject({ subscribers: 3 })
  })

  it('each number is the people its condition finds, those who still read among them, month by month', async () => {
    const { context } = await twoPages()
    const touches = [FLYER, ad('spring'), ad('autumn'), NO_TOUCH, { ...NO_TOUCH, referrer: 'forum.example.net' }]
    for (let n = 0; n < 60; n++) {
      const id = come(context, `p${n}@example.com`, touches[n % 5]!, n % 4 === 0 ? 'asking' : 'sheet-kit')
      inventReader(context, id, (n * 37) % 100)
      if (n % 9 === 4) leave(context, emailsOfPerson(context.db, id)[0]!.id, { what: 'everything' })
      await moveTo(context, context.clock.now() + 31 * HOUR)
    }
    let reading = 0
    for (const months of [1, 2, 3, 12]) {
      const view = sourcesView(context, { months })
      const moment = momentOf(context.db, context.clock.now())
      for (const line of [...view.lines, { ...view.total, source: null }]) {
        const find = (reads: boolean) => peopleWhere(context.db, toSql(peopleFrom(view, line.source, reads), moment)).length
        expect([find(false), find(true)], JSON.stringify(line)).toEqual([line.subscribers, line.reading])
      }
      reading += view.total.reading
    }
    expect(reading).toBeGreaterThan(20)
    expect(sourcesView(context, { months: 12 }).total.subscribers).toBeGreaterThan(sourcesView(context, { months: 1 }).total.subscribers)
  })

  it('does not count whom the page found as one of ours, nor anybody twice', async () => {
    const { context } = await twoPages()
    come(context, 'a@example.com', FLYER)
    context.db.prepare(`UPDATE people SET source = 'import:old list' WHERE address_key = 'a@example.com'`).run()
    for (let n = 0; n < 3; n++) come(context, 'b@example.com', FLYER)
    expect(lineOf(context, flyer)).toMatchObject({ subscribers: 1 })
  })
})

describe('money spent on a source', () => {
  it('is shared among whom it brought in those months, and among those who still read', async () => {
    const { context } = await twoPages()
    for (let n = 0; n < 3; n++) come(context, `p${n}@example.com`, FLYER)
    spend(context, flyer, '2026-11', '40')
    spend(context, flyer, '2026-10', '1.234,56')
    spend(context, flyer, '2026-08', '999')
    expect(lineOf(context, flyer)).toMatchObject({
      spent: [{ amount: 127456, currency: 'EUR' }], perSubscriber: { amount: 42485, currency: 'EUR' }, perReading: null,
    })
    expect(lineOf(context, flyer, 1)).toMatchObject({
      spent: [{ amount: 4000, currency: 'EUR' }], perSubscriber: { amount: 1333, currency: 'EUR' },
    })
    expect(sourcesView(context, { months: 1 }).total).toMatchObject({ spent: [{ amount: 4000, currency: 'EUR' }] })
    expect(sourceCosts(context, flyer).months.filter(({ typed }) => typed !== '')).toEqual([
      { month: '2026-11', typed: '40.00', currency: 'EUR' }, { month: '2026-10', typed: '1234.56', currency: 'EUR' },
      { month: '2026-08', typed: '999.00', currency: 'EUR' },
    ])
    // Written down again it takes the old place; empty or nothing takes it out.
    spend(context, flyer, '2026-11', '12')
    for (const nothing of ['', '0']) spend(context, flyer, nothing === '' ? '2026-10' : '2026-08', nothing)
    expect(lineOf(context, flyer, 12)).toMatchObject({ spent: [{ amount: 1200, currency: 'EUR' }] })
  })

  it('keeps its currency when the workspace takes another, and is never added to it', async () => {
    const { context } = await twoPages()
    come(context, 'a@example.com', FLYER)
    spend(context, flyer, '2026-10', '40')
    saveSettings(context, { ...workspaceOf(context.db), currency: 'JPY' })
    spend(context, flyer, '2026-11', '900')
    expect(lineOf(context, flyer)).toMatchObject({
      spent: [{ amount: 4000, currency: 'EUR' }, { amount: 900, currency: 'JPY' }], perSubscriber: null,
    })
    // An amount that stands is read in its own currency.
    spend(context, flyer, '2026-10', '40.50')
    expect(() => spend(context, flyer, '2026-11', '900.50')).toThrow(InputProblem)
    expect(lineOf(context, flyer)!.spent).toEqual([{ amount: 4050, currency: 'EUR' }, { amount: 900, currency: 'JPY' }])
    expect(JSON.parse([...exportWorkspace(context)].join('')).sourceCosts).toEqual([
      { source: flyer, month: '2026-10', amount: '40.50', currency: 'EUR' },
      { source: flyer, month: '2026-11', amount: '900', currency: 'JPY' },
    ])
    expect(() => saveSettings(context, { ...workspaceOf(context.db), currency: 'XXX' })).toThrow('Choose a currency')
  })

  it('is written down for all months or, where one cannot be read, for none', async () => {
    const { context } = await twoPages()
    const problems = (months: { month: string, typed: string }[], source = flyer) => {
      try {
        saveSourceCosts(context, { source, months })
        return []
      }
      catch (error) {
        return error instanceof InputProblem ? error.problems.map(({ field }) => field) : [(error as Error).message]
      }
    }
    expect(problems([
      { month: '2026-11', typed: '40' }, { month: '2026-10', typed: 'forty' }, { month: '2026-13', typed: '1' },
      { month: '2028-01', typed: '1' }, { month: 'x', typed: '1' },
    ])).toEqual(['months.2026-10', 'months.2026-13', 'months.2028-01', 'months.x'])
    expect(lineOf(context, flyer, 12)!.spent).toEqual([])
    expect(problems([{ month: '2026-11', typed: '40' }], { kind: 'untold', word: '' })).toEqual(['source'])
    expect(problems([{ month: '2026-11', typed: '40' }], { kind: 'named', word: 'nobody' })).toEqual(['There is no source with this name.'])
    // What has not brought anybody yet can be paid for, and is shown.
    expect(problems([{ month: '2026-11', typed: '40' }], { kind: 'utm', word: 'new ads' })).toEqual([])
    expect(lineOf(context, { kind: 'utm', word: 'new ads' })).toMatchObject({
      says: 'new ads', subscribers: 0, spent: [{ amount: 4000, currency: 'EUR' }], perSubscriber: null,
    })
  })

  it('goes by the months of the workspace’s zone', async () => {
    const { context, pageId } = await twoPages()
    const lastMinute = Date.UTC(2026, 10, 30, 23, 59)
    await moveTo(context, lastMinute)
    countVisits(context, [{ shown: { kind: 'page', id: pageId }, touch: FLYER, at: lastMinute, visits: 1 }])
    come(context, 'a@example.com', FLYER)
    await moveTo(context, lastMinute + 60_000)
    come(context, 'b@example.com', FLYER)
    expect([lineOf(context, flyer, 1)!.subscribers, lineOf(context, flyer, 2)!.subscribers, lineOf(context, flyer, 1)!.visits]).toEqual([
      1, 2, 0,
    ])
    expect(sourcesView(context, { months: 1 }).from).toBe(Date.UTC(2026, 11, 1))
    expect(sourcesView(context, { months: 1 }).to - sourcesView(context, { months: 1 }).from).toBe(31 * DAY)
  })
})
