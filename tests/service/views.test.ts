import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import type { Condition } from '#core/audience/condition'
import { toSql } from '#core/audience/sql'
import { EVERYBODY } from '#core/audience/condition'
import { diceOf } from '#core/dice'
import type { DraftStep } from '#core/sequence/draft'
import { sayEvent } from '#core/events'
import { openDatabase } from '#data/connection'
import { searchMailbox } from '#data/mailbox'
import { emailsOfPerson } from '#data/outbox'
import { peopleIds, searchPeople, type Reach } from '#data/people'
import { insertInventedReader } from '#data/reading'
import { leave } from '#usecases/arrive/leave'
import { createPage } from '#usecases/arrive/pages'
import { createCourse, saveCourse } from '#usecases/courses/save'
import { changeOutlook, publishChanges, startOutlook } from '#usecases/courses/publish'
import { courseNumbers, whoBehind } from '#usecases/views/courseNumbers'
import { answersView } from '#usecases/views/answers'
import { emailVersions } from '#usecases/views/emailVersions'
import { lacking } from '#usecases/views/lacking'
import { courseStanding } from '#usecases/views/courseStanding'
import { previewEmail } from '#usecases/sending/previewEmail'
import { momentOf } from '#usecases/inner/moment'
import { giveTagByHand } from '#usecases/know/byHand'
import { saveSettings } from '#usecases/settings/workspace'
import type { WorkspaceContext } from '#usecases/context'
import { newRule } from '#core/rules/rule'
import { saveRule } from '#usecases/know/rules'
import { linkView } from '#usecases/views/links'
import { ruleView } from '#usecases/views/rules'
import { SLOW_VIEWS } from '#server/reader/views'
import { courseView } from '#usecases/views/course'
import { fieldLines } from '#usecases/views/fields'
import { FORECAST_DAYS, forecast } from '#usecases/views/forecast'
import { railView } from '#usecases/views/frame'
import { listLines, tagLines } from '#usecases/views/listsAndTags'
import { mailboxView, mailView } from '#usecases/views/mailbox'
import { pageResults } from '#usecases/views/pageResults'
import { pageView } from '#usecases/views/pages'
import { sourcesView } from '#usecases/views/sources'
import { subscriberView } from '#usecases/views/subscriber'
import { subscribersCount, subscribersView, type SubscribersQuery } from '#usecases/views/subscribers'
import { NOT_NARROWED } from '#usecases/inner/narrowing'
import { howMany } from '#usecases/views/howMany'
import { findAnything } from '#usecases/views/find'
import { weeksView } from '#usecases/views/weeks'
import { todayView } from '#usecases/views/today'
import { buyerView } from '#usecases/offers/buyer'
import { sellingView } from '#usecases/settings/selling'
import { offerView } from '#usecases/views/offers'
import { offerSales } from '#usecases/views/offerSales'
import { newBroadcast } from '#core/broadcast/draft'
import { againReach, broadcastView } from '#usecases/views/broadcasts'
import { broadcastReach } from '#usecases/views/broadcastReach'
import { broadcastResults, broadcastSplit, broadcastWho } from '#usecases/views/broadcastResults'
import { clickMap } from '#usecases/views/clickMap'
import { sendBroadcast } from './broadcasting'
import { buy, openShop } from './shop'
import { temporaryFolder } from '../temporary'
import { DAY, HOUR, email, furnish, moveTo, openContext, step, thursdayNoon, visit } from './workshop'

const everybody: SubscribersQuery = { ...NOT_NARROWED, search: '', sort: 'newest', page: 0 }

describe('a screen', () => {
  it('reads all it shows at one moment, so that no number and no row contradict each other while the engine writes', async () => {
    const file = join(temporaryFolder(), 'porch.db')
    const shop = await openShop(await furnish(openContext({ file })))
    const { context: { db: writer }, pageId, courseId, offerId, listId } = shop
    const { id: purchaseId } = await buy(shop.context, 'bea@example.com')
    const saved = await saveRule(shop.context, null, newRule({ kind: 'opted-in', thingId: null }, [{ kind: 'score', points: 1 }]))
    const ruleId = saved.saved ? saved.id : 0
    const context = openContext({ file })
    visit(context, 'ada@example.com')
    const broadcastId = await sendBroadcast(context, listId)
    await moveTo(context, thursdayNoon + HOUR)
    writer.close()
    const views: [string, (context: WorkspaceContext) => unknown][] = [
      ...Object.entries(SLOW_VIEWS).filter(([name]) => ![
        'subscribers', 'subscribersCount', 'audience', 'audienceMore', 'idsToExport', 'importPlan', 'howMany', 'course', 'pageResults',
        'sources', 'offerSales', 'rule', 'link', 'courseStanding', 'startOutlook', 'changeOutlook', 'courseNumbers', 'whoBehind',
        'rehearsal', 'keptRehearsals', 'ending', 'find', 'weeks', 'emailVersions', 'lacking', 'answers',
        'broadcastReach', 'againReach', 'broadcastResults', 'broadcastSplit', 'broadcastWho',
      ].includes(name)) as [string, (context: WorkspaceContext) => unknown][],
      ['broadcastReach', context => broadcastReach(context, { id: broadcastId, draft: newBroadcast(listId) })],
      ['againReach', context => againReach(context, { id: broadcastId, spec: { without: 'open', url: null, uncertainToo: false } })],
      ['broadcastResults', context => broadcastResults(context, broadcastId)],
      ['broadcastSplit', context => broadcastSplit(context, { id: broadcastId, by: 'tag' })],
      ['broadcastWho', context => broadcastWho(context, { id: broadcastId, key: 'sent', within: { by: 'tag', part: '1' }, from: 0 })],
      ['broadcast', context => broadcastView(context, broadcastId)], ['clickMap', context => clickMap(context, broadcastId)],
      ['find', context => findAnything(context, 'kit')], ['weeks', context => weeksView(context, 'page')],
      ['emailVersions', context => emailVersions(
        context, { content: email('x'), listId: null, kind: 'course', ownerId: courseId, stepId: null }
      )],
      ['lacking', context => lacking(context, { field: 'first_name', fieldId: null, listId: null })],
      ['answers', context => answersView(context, { of: { kind: 'course', ownerId: courseId, itemId: 'one' }, labels: ['x'] })],
      ['howMany', context => howMany(context, { kind: 'fitting', search: '', condition: EVERYBODY })],
      ['subscribers', context => subscribersView(context, everybody)], ['course', context => courseView(context, courseId)], [
        'startOutlook', context => startOutlook(context, courseId),
      ], ['changeOutlook', context => changeOutlook(context, courseId)], ['courseNumbers', context => courseNumbers(context, courseId)], [
        'whoBehind', context => whoBehind(context, { courseId, asked: { after: null, end: 'inside' }, from: 0 }),
      ], ['courseStanding', context => courseStanding(context, { courseId, stepId: null, from: 0 })],
      ['pageResults', context => pageResults(context, { id: pageId, days: 7 })],
      ['sources', context => sourcesView(context, { months: 3 })], [
        'offerSales',
        context => offerSales(context, { id: offerId, days: 7, state: 'bought', couponId: null, source: null, email: null, page: 0 }),
      ], ['offer', context => offerView(context, offerId)], ['rule', context => ruleView(context, ruleId)], [
        'link', context => linkView(context, { id: 1, days: 7 }),
      ], ['selling', context => sellingView(context, '')],
      ['buyer', context => buyerView(context, context.signer.sign('buyer', String(purchaseId)), '')], [
        'mailbox', context => mailboxView(context, '', 0),
      ], ['page', context => pageView(context, pageId)], ['fields', fieldLines], ['subscriber', context => subscriberView(context, 1)],
    ]
    for (const [name, view] of views) {
      // Every statement of a fresh connection is prepared where it is first asked.
      const db = openDatabase(file)
      const alone: string[] = []
      const prepare = db.prepare.bind(db)
      db.prepare = ((sql: string) => {
        if (!db.inTransaction) alone.push(sql.trim().replace(/\s+/g, ' '))
        return prepare(sql)
      }) as typeof db.prepare
      view({ ...context, db, clock: { now: () => thursdayNoon } })
      expect(alone.length, `${name}: ${alone.join('\n')}`).toBeLessThanOrEqual(1)
      db.close()
    }
  })
})

describe('what is said to go out', () => {
  it('is exactly what then goes out, to the minute and the person, whatever the zones and the whens', async () => {
    const dice = diceOf(28)
    const steps = (): DraftStep[] => [
      step('one', { kind: 'at-once' }), step('two', { kind: 'elapsed', count: 30, unit: 'hours', from: 'previous' }),
      step('three', { kind: 'calendar-day', day: 1, time: '06:30', from: 'joining' }, undefined, { ifPast: 'skip' }),
      step('four', { kind: 'calendar-day', day: 3, time: '07:45', from: 'joining' }, undefined, { zone: 'subscriber' }), step('five', {
        kind: 'elapsed', count: 1, unit: 'weeks', from: 'joining',
      }), step('six', { kind: 'calendar-day', day: 0, time: '23:00', from: 'previous' }, undefined, { zone: 'subscriber' }),
    ]
    const { context } = await furnish(openContext(), steps)
    for (let n = 0; n < 60; n++) {
      visit(context, `p${n}@example.com`, '', ['', 'Asia/Kathmandu', 'Pacific/Auckland', 'America/New_York'][n % 4])
      await moveTo(context, context.clock.now() + Math.floor(dice() * 3 * HOUR))
    }
    const now = context.clock.now()
    const until = now + FORECAST_DAYS * DAY
    const said = forecast(context, 1).map(send => `${send.at} ${send.itemId} ${send.people}`)
    await moveTo(context, until)
    const gone = new Map<string, number>()
    for (const row of context.db.prepare('SELECT item_id AS stepId, handed_over_at AS at FROM outbox WHERE handed_over_at > ?')
      .all(now) as { stepId: string, at: number }[]) {
      const key = `${row.at} ${row.stepId}`
      gone.set(key, (gone.get(key) ?? 0) + 1)
    }
    expect(said.length).toBeGreaterThan(80)
    expect(said.sort()).toEqual([...gone].map(([key, people]) => `${key} ${people}`).sort())
  })

  it('stands on the rail and on Today, and follows every change', async () => {
    const { context, courseId, listId, tagId } = await furnish(openContext())
    expect(railView(context).posts).toEqual([])
    visit(context, 'ada@example.com')
    expect(railView(context).posts).toMatchObject([{ itemId: 'one', people: 1 }, { itemId: 'two', title: 'two' }, { itemId: 'three' }])
    await moveTo(context, thursdayNoon + HOUR)
    expect(railView(context)).toMatchObject({ now: thursdayNoon + HOUR, movingTo: null, backlog: 0 })
    expect(todayView(context).goingOut!.map(send => [send.itemId, send.at, send.people])).toEqual([
      ['two', thursdayNoon + DAY, 1], ['three', Date.UTC(2026, 10, 29, 8), 1],
    ])
    saveCourse(context, courseId, 'Fold, Sew, Cover', { listId, wayInTagIds: [tagId], again: 'once', steps: [
      step('one', { kind: 'at-once' }), step('two', { kind: 'elapsed', count: 5, unit: 'days', from: 'previous' }, email('two, renamed')),
    ] })
    expect(railView(context).posts!.map(post => post.at)).toEqual([thursdayNoon + DAY, Date.UTC(2026, 10, 29, 8)])
    await publishChanges(context, courseId)
    expect(railView(context).posts).toMatchObject([{ at: thursdayNoon + 5 * DAY, title: 'two, renamed' }])
    leave(context, emailsOfPerson(context.db, 1)[0]!.id, { what: 'everything' })
    expect(railView(context).posts).toEqual([])
  })
})

describe('Today', () => {
  const titles = (context: Parameters<typeof todayView>[0]) => todayView(context).needsAttention.map(notice => notice.title)

  it('asks for nothing while nothing is there', () => {
    const context = openContext()
    expect(todayView(context)).toMatchObject({
      goingOut: [], figures: { active: 0, opened28: { value: null } },
    })
    expect(titles(context)).toEqual([])
  })

  it('tells of what is unfinished, and stops when it is done', async () => {
    const { context, courseId, listId, tagId } = await furnish(openContext())
    expect(titles(context)).toEqual([])
    const pageId = createPage(context, 'Bench notes')
    createCourse(context, 'Paper marbling', 'x')
    expect(titles(context)).toEqual(['Paper marbling is not started', 'Bench notes is not published'])
    expect(todayView(context).needsAttention.map(notice => notice.to)).toEqual(['/courses/2', `/pages/${pageId}`])
    const draft = { listId, wayInTagIds: [tagId], again: 'once' as const, steps: [step('one', { kind: 'at-once' }), step(
      'empty', { kind: 'elapsed', count: 1, unit: 'days', from: 'previous' },
      { ...email('Later'), body: { type: 'doc', content: [{ type: 'paragraph' }] } },
    )] }
    saveCourse(context, courseId, 'Fold, Sew, Cover', draft)
    expect(titles(context)).toContain('Fold, Sew, Cover has changes that are not published')
    await publishChanges(context, courseId)
    visit(context, 'ada@example.com')
    await moveTo(context, thursdayNoon + HOUR)
    expect(todayView(context).needsAttention).toContainEqual({
      tone: 'plain', to: '/courses/1', title: 'People wait for an email that is not written', action: 'Write the email',
      text: 'Fold, Sew, Cover: write “Later” and publish it. The first of them is to get it Fri 27 Nov, 12:00, in 23 hours.',
      people: { count: 1, to: '/courses/1?part=people' }, by: thursdayNoon + DAY,
    })
    await moveTo(context, thursdayNoon + DAY)
    expect(todayView(context).needsAttention).toContainEqual(
      expect.objectContaining({ tone: 'trouble', text: expect.stringContaining('It should have gone Fri 27 Nov, 12:00.') }),
    )
    saveCourse(context, courseId, 'Fold, Sew, Cover', {
      ...draft, steps: [draft.steps[0]!, { ...draft.steps[1]!, content: email('Later') }],
    })
    await publishChanges(context, courseId)
    expect(titles(context).filter(title => title.includes('Fold'))).toEqual([])
    await moveTo(context, thursdayNoon + 2 * DAY)
    expect(searchMailbox(context.db, 'ada@', 9, 0).rows.map(mail => [mail.subject, mail.at])).toEqual([
      ['Later, friend', thursdayNoon + DAY], ['one, friend', thursdayNoon],
    ])
  })

  it('counts what the practice mailbox refuses, and opens onto the people', async () => {
    const { context } = await furnish(openContext())
    for (const address of ['refused@example.com', 'later@example.com', 'fine@example.com']) visit(context, address)
    await moveTo(context, thursdayNoon + HOUR)
    expect(titles(context)).toEqual(['1 email failed this week', '1 email is waiting for another try'])
    expect(subscribersView(context, { ...everybody, trouble: 'waitingAgain' })).toMatchObject({ rows: [{ address: 'later@example.com' }] })
    await moveTo(context, thursdayNoon + 4 * DAY)
    expect(titles(context)[0]).toMatch(/^\d+ emails? failed this week$/)
    // The number matches the list it opens.
    const failed = subscribersView(context, { ...everybody, trouble: 'givenUp' }).rows.length
    expect(todayView(context).needsAttention[0]!.people).toEqual({ count: failed, to: '/subscribers?trouble=givenUp' })
    expect(subscribersView(context, { ...everybody, trouble: 'givenUp' }).rows.map(row => row.address)).toContain('later@example.com')
    expect(subscribersView(context, { ...everybody, status: 'bounced' })).toMatchObject({ rows: [{ address: 'refused@example.com' }] })
  })
})

describe('the table of subscribers', () => {
  const found = (context: Parameters<typeof subscribersView>[0], part: Partial<SubscribersQuery>) =>
    subscribersView(context, { ...everybody, ...part }).rows.map(row => row.address)

  it('finds any part of an address or name, and takes no letter for a sign of its own', async () => {
    const { context } = await furnish(openContext())
    for (const [address, name] of [
      ['ada.lovelace@example.com', 'Ada'], ['100%_sure@example.com', 'Bo'], ['o\'neil@example.org', 'Ó Néill'],
      ['z@example.net', '"; DROP TABLE people; --'],
    ] as const) visit(context, address, name)
    expect(found(context, { search: 'LOVE' })).toEqual(['ada.lovelace@example.com'])
    expect(found(context, { search: '%' })).toEqual(['100%_sure@example.com'])
    expect(found(context, { search: '_' })).toEqual(['100%_sure@example.com'])
    expect(found(context, { search: 'o\'n' })).toEqual(['o\'neil@example.org'])
    expect(found(context, { search: 'drop table' })).toEqual(['z@example.net'])
    expect(found(context, { search: '\' OR 1=1 --' })).toEqual([])
    expect(found(context, { sort: 'address' })).toEqual([
      '100%_sure@example.com', 'ada.lovelace@example.com', 'o\'neil@example.org', 'z@example.net',
    ])
    expect(found(context, { sort: 'oldest' })[0]).toBe('ada.lovelace@example.com')
  })

  it('pages through everybody once, whatever the order', async () => {
    const { context } = await furnish(openContext())
    for (let n = 0; n < 230; n++) visit(context, `p${n}@example.com`, `N${n % 3}`)
    for (const sort of ['newest', 'oldest', 'address', 'name'] as const) {
      const pages = [0, 1, 2, 3].map(page => subscribersView(context, { ...everybody, sort, page }))
      expect(pages.map(page => page.rows.length)).toEqual([100, 100, 30, 0])
      expect(new Set(pages.flatMap(page => page.rows.map(row => row.id))).size).toBe(230)
      expect(subscribersCount(context, everybody).total).toBe(230)
    }
  })

  it('shows the same page by whichever way it is found', async () => {
    const { context, interestId } = await furnish(openContext())
    for (let n = 0; n < 120; n++) {
      const id = visit(context, `p${n}@example.com`)
      if (n % 7 === 0 || (n > 20 && n < 50)) giveTagByHand(context, id, interestId)
      if (n % 4 === 0) await moveTo(context, context.clock.now() + 60_000)
    }
    const moment = momentOf(context.db, context.clock.now())
    const conditions: Condition[] = [
      { kind: 'all', of: [] }, { kind: 'tag', tagId: interestId, since: null },
      { kind: 'none', of: [{ kind: 'tag', tagId: interestId, since: null }] }, { kind: 'country', is: ['PT'], unknown: false },
    ]
    const reaches: Reach[] = [
      { few: 1, more: 2, ratherFew: 1 }, { few: 3, more: 30, ratherFew: 10 }, { few: 3, more: 4, ratherFew: 500 },
      { few: 10, more: 110, ratherFew: 1 }, { few: 500, more: 500, ratherFew: 500 },
    ]
    for (const condition of conditions) for (const sort of ['newest', 'oldest'] as const) for (const offset of [0, 10, 40]) {
      const found = reaches.flatMap(reach => ([null, 'at-once', 'one-by-one'] as const).map(slow =>
        searchPeople(
          context.db,
          { search: '', where: toSql(condition, moment), whereEach: toSql(condition, moment, 'each'), slow, sort, limit: 20, offset },
          reach,
        ).map(row => row.id)))
      const all = context.db.prepare(`
        SELECT p.id FROM people p WHERE p.gone IS NULL
        ORDER BY p.created_at ${sort === 'newest' ? 'DESC' : ''}, p.id ${sort === 'newest' ? 'DESC' : ''}`).pluck().all() as number[]
      const holding = new Set(peopleIds(context.db, { search: '', where: toSql(condition, moment) }))
      const expected = all.filter(id => holding.has(id)).slice(offset, offset + 20)
      for (const ids of found) expect(ids).toEqual(expected)
    }
  })

  it('holds exactly the people behind each number of a course', async () => {
    const { context, courseId } = await furnish(openContext())
    for (let n = 0; n < 50; n++) insertInventedReader(context.db, visit(context, `p${n}@example.com`), (n * 13) % 100)
    await moveTo(context, thursdayNoon + 2 * DAY)
    const { numbers } = courseView(context, courseId)
    for (const row of numbers) {
      for (const number of ['waiting', 'sent', 'heldBack', 'opened', 'clicked', 'unsubscribed'] as const) {
        expect(
          subscribersCount(context, { ...everybody, behind: { courseId, stepId: row.stepId, number } }).total, `${row.stepId} ${number}`,
        ).toBe(row[number])
      }
    }
    const { counts } = courseView(context, courseId)
    for (const is of ['inside', 'started', 'finished', 'left'] as const) {
      expect(subscribersCount(context, { ...everybody, standing: { courseId, is } }).total, is).toBe(counts[is])
    }
    expect(subscribersCount(context, { ...everybody, pageId: 1 }).total).toBe(50)
    expect(subscribersView(context, { ...everybody, pageId: 1 })).toMatchObject({ narrowedTo: 'who opted in on “Sheet kit”' })
    // Someone who comes in a second time is still one person.
    const [again] = subscribersView(context, { ...everybody, sort: 'oldest' }).rows
    await moveTo(context, thursdayNoon + 20 * DAY)
    visit(context, again!.address)
    await moveTo(context, thursdayNoon + 21 * DAY)
    expect(emailsOfPerson(context.db, again!.id).filter(mail => mail.itemId === 'one')).toHaveLength(2)
    expect(courseView(context, courseId).numbers.find(row => row.stepId === 'one')!.sent).toBe(50)
  })

  it('agrees with the tags and lists', async () => {
    const { context, courseId, interestId } = await furnish(openContext())
    for (let n = 0; n < 50; n++) insertInventedReader(context.db, visit(context, `p${n}@example.com`), (n * 13) % 100)
    await moveTo(context, thursdayNoon + 2 * DAY)
    const one = courseView(context, courseId).numbers.find(row => row.stepId === 'one')!
    expect(one.sent).toBe(50)
    expect(one.opened).toBeGreaterThanOrEqual(one.clicked)
    expect(one.clicked).toBeGreaterThan(0)
    // Whoever pressed the one button has its tag: the list of tags, the table and the step agree.
    expect(tagLines(context).find(tag => tag.id === interestId)!.people).toBe(one.clicked)
    expect(subscribersCount(context, { ...everybody, tagId: interestId }).total).toBe(one.clicked)
    expect(subscribersView(context, { ...everybody, tagId: interestId })).toMatchObject({ narrowedTo: 'tagged “interest: coptic”' })
    expect(listLines(context)[0]!.people).toBe(subscribersCount(context, { ...everybody, listId: 1 }).total)
  })
})

describe('a subscriber\'s page', () => {
  it('tells the whole story from the first page to the last email, newest first, each with its cause', async () => {
    const { context } = await furnish(openContext())
    const id = visit(context, 'ada@example.com', 'Ada', 'Asia/Tokyo')
    await moveTo(context, thursdayNoon + 10 * DAY)
    const view = subscriberView(context, id)
    expect(view.person).toMatchObject({ firstName: 'Ada', zone: 'Asia/Tokyo', status: 'active' })
    expect(view.events.map(sayEvent).reverse()).toEqual([
      'opted in on “Sheet kit”', 'is now active', 'joined the list “letters”', 'got the tag “sheet kit”',
      'joined the course “Fold, Sew, Cover”',
      'was sent “one”', 'entered the segment “Everyone who may be mailed”', 'entered the segment “Newcomers of the last 7 days”',
      'entered the segment “Never bought anything”',
      'was sent “two”', 'finished “Fold, Sew, Cover”', 'was sent “three”',
      'left the segment “Newcomers of the last 7 days”',
    ])
    const because = new Map(view.events.map(event => [sayEvent(event), view.events.find(cause => cause.id === event.causeId)]))
    expect(sayEvent(because.get('joined the course “Fold, Sew, Cover”')!)).toBe('got the tag “sheet kit”')
    expect(sayEvent(because.get('was sent “two”')!)).toBe('joined the course “Fold, Sew, Cover”')
    expect(view.courses).toMatchObject([{ status: 'finished', nextTitle: null }])
    expect(view.consents).toMatchObject([{ ip: '192.0.2.7', zone: 'Asia/Tokyo', pageVersion: 1 }])
  })
})

describe('a change of zone', () => {
  it('plans unsent local times anew, and leaves elapsed ones', async () => {
    const { context } = await furnish(openContext())
    const id = visit(context, 'ada@example.com')
    await moveTo(context, thursdayNoon + HOUR)
    const settings = {
      name: 'Saltmarsh', senderName: 'Ines', senderAddress: 'ines@saltmarsh.example.com', postalAddress: 'Rua', currency: 'EUR',
      smtpUrl: null,
    }
    saveSettings(context, { ...settings, zone: 'America/New_York' })
    await moveTo(context, thursdayNoon + 10 * DAY)
    const times = emailsOfPerson(context.db, id).map(mail => mail.plannedAt).reverse()
    // 29 November 08:00 in New York is 13:00 UTC.
    expect(times).toEqual([thursdayNoon, thursdayNoon + DAY, Date.UTC(2026, 10, 29, 13)])
    expect(() => saveSettings(context, { ...settings, zone: 'Mars/Olympus' })).toThrow(/time zone/)
  })
})

describe('the practice mailbox', () => {
  it('reads back from the very bytes what the preview had shown', async () => {
    const { context, listId } = await furnish(openContext())
    visit(context, 'ada@example.com', 'Ada')
    await moveTo(context, thursdayNoon + DAY)
    const [two] = searchMailbox(context.db, 'two', 9, 0).rows
    const mail = await mailView(context, two!.id)
    const preview = await previewEmail(context, {
      content: email('two'), listId, kind: 'course', ownerId: null, personId: null, firstName: 'Ada', chosen: null,
    })
    expect(mail.subject).toBe(preview.subject)
    const withoutAddresses = (text: string) => text.replace(/https?:\S+|#(?=\s)/g, '').replace(/\s+/g, ' ').trim()
    expect(withoutAddresses(mail.text)).toBe(withoutAddresses(preview.text))
    expect(mail).toMatchObject({ from: 'Ines <ines@saltmarsh.example.com>', to: 'Ada <ada@example.com>', openedAt: null })
    await expect(mailView(context, 999)).rejects.toThrow(/not in the practice mailbox/)
  })
})
