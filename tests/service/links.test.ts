import { describe, expect, it } from 'vitest'
import type { MessageContent } from '#core/message/content'
import { diceOf } from '#core/dice'
import type { Action } from '#core/rules/rule'
import { peopleWhere } from '#data/audience'
import { toSql } from '#core/audience/sql'
import { eventsOfPerson } from '#data/events'
import { findLink } from '#data/links'
import { hasTag, membership } from '#data/marks'
import { findPage } from '#data/pages'
import { emailsOfPerson } from '#data/outbox'
import { clicksOfEmail } from '#data/reading'
import { savePage } from '#usecases/arrive/pages'
import { choicesOf, takeBackClick } from '#usecases/arrive/choices'
import { momentOf } from '#usecases/inner/moment'
import { removeLink, saveLink } from '#usecases/know/links'
import { saveList, saveTag } from '#usecases/know/listsAndTags'
import { asksFirst, confirmClick, destinationOf, recordClick } from '#usecases/reading/click'
import { recordOpen } from '#usecases/reading/open'
import { newRule } from '#core/rules/rule'
import { saveRule, switchRule } from '#usecases/know/rules'
import { linkLines, linkView } from '#usecases/views/links'
import { todayView } from '#usecases/views/today'
import { InputProblem, NotThere } from '#usecases/problem'
import { buy, openShop } from './shop'
import { DAY, email, furnish, HOUR, listeningCarrier, moveTo, openContext, step, tag, thursdayNoon, visit, type Workshop } from './workshop'
import { play } from '#usecases/time/play'

const SITE = 'https://saltmarsh.example.com'
const SECOND = 1000
const MINUTE = 60 * SECOND
const reader = { agent: 'A browser', robot: false, certain: false }

/** An email with so many buttons; the first gives a tag. */
const buttons = (count: number, tagId: number | null = null): MessageContent => email('one', { body: { type: 'doc', content: [
  { type: 'paragraph', content: [{ type: 'text', text: 'Hello' }] }, ...Array.from({
    length: count,
  }, (_, n) => ({ type: 'button' as const, attrs: { label: `button ${n}`, url: `${SITE}/b${n}`, tagId: n === 0 ? tagId : null } })),
] } })
const idOf = (context: Workshop, path: string) => linkLines(context).find(({ url }) => url === `${SITE}${path}`)!.id
const mailOf = (context: Workshop, personId: number) => emailsOfPerson(context.db, personId).find(mail => mail.status === 'handed over')!.id
const bare = { note: '', does: [] as Action[], asks: false }

/** Live: clicks are judged there. One course whose first email has so many buttons. */
async function live(count: number) {
  const clock = { at: thursdayNoon }
  const context = openContext({ mode: 'live', clock, carrier: listeningCarrier() })
  const setting = await furnish(context, ({ interestId }) => [step('one', { kind: 'at-once' }, buttons(count, interestId))])
  const on = async (at: number) => {
    clock.at = at
    await play(context, at)
  }
  return { ...setting, clock, on }
}

describe('machines and readers', () => {
  it('are told apart: scanners and proxies cause nothing, readers are not lost, whatever order they come in', async () => {
    const { context, interestId, clock, on } = await live(4)
    const dice = diceOf(20_261_126)
    const people = Array.from({ length: 90 }, (_, n) => visit(context, `p${n}@example.com`))
    await on(thursdayNoon + 1)
    type Act = { at: number, act: () => void }
    const acts: Act[] = []
    const clicks: { personId: number, n: number, at: number, by: 'reader' | 'machine' }[] = []
    const click = (personId: number, n: number, at: number, by: 'reader' | 'machine', robot = false) => {
      clicks.push({ personId, n, at, by })
      acts.push({ at, act: () => recordClick(context, mailOf(context, personId), n, { ...reader, robot }) })
    }
    for (const [n, personId] of people.entries()) {
      const begin = thursdayNoon + 1
      // Every third mailbox is scanned: by a robot that says so, right after handing over, or minutes later when somebody looks; all links
      // one after the other.
      const scan = n % 3 === 0 ? Math.floor(dice() * 3) : -1
      if (scan === 0) for (const link of [0, 1, 2, 3]) click(personId, link, begin + Math.floor(dice() * HOUR), 'machine', true)
      if (scan === 1) for (const link of [0, 1, 2, 3]) click(personId, link, begin + 500 + link * 300, 'machine')
      if (scan === 2) {
        const later = begin + MINUTE + Math.floor(dice() * HOUR)
        for (const link of [0, 1, 2, 3]) click(personId, link, later + link * 400, 'machine')
      }
      // Half of the mail clients fetch the picture through a proxy before anybody looks.
      if (dice() < 0.5) acts.push({
        at: begin + Math.floor(dice() * 20 * SECOND),
        act: () => recordOpen(context, mailOf(context, personId), { ...reader, agent: 'x GoogleImageProxy' }),
      })
      // Two of three people read, some hours later or earlier than a late scanner, and follow one or two links at a reader's pace.
      if (n % 3 !== 1) {
        const at = begin + 2 * HOUR + Math.floor(dice() * 9 * HOUR)
        click(personId, 0, at, 'reader')
        if (dice() < 0.5) click(personId, 1 + Math.floor(dice() * 3), at + 8 * SECOND + Math.floor(dice() * MINUTE), 'reader')
      }
    }
    for (const { at, act } of acts.sort((a, b) => a.at - b.at)) {
      await on(at)
      act()
    }
    await on(clock.at + HOUR)
    const judged = clicks.map(({ personId, n, at, by }) => ({
      by, judged: clicksOfEmail(context.db, mailOf(context, personId)).find(one => one.linkN === n && one.at === at)!.judged,
    }))
    const wrong = {
      machinesTakenForReaders: judged.filter(one => one.by === 'machine' && one.judged === 'reader').length,
      readersTakenForMachines: judged.filter(one => one.by === 'reader' && one.judged !== 'reader').length,
    }
    expect(wrong).toEqual({ machinesTakenForReaders: 0, readersTakenForMachines: 0 })
    expect(judged.filter(({ by }) => by === 'machine').length).toBeGreaterThan(80)
    // Only readers have the tag, and every one of them; a click counts by when it was made.
    expect(people.filter((id, n) => hasTag(context.db, interestId, id) !== (n % 3 !== 1))).toEqual([])
    const [firstReader] = people
    const event = eventsOfPerson(context.db, firstReader!).find(one => one.kind === 'got-tag' && one.tagName === 'interest: coptic')!
    expect(event.at).toBe(clicks.find(one => one.personId === firstReader && one.by === 'reader')!.at)
  })

  it('what cannot be told apart is bounded: one link followed once, long after handing over, counts', async () => {
    const { context, on } = await live(1)
    const id = visit(context, 'p@example.com')
    await on(thursdayNoon + 1)
    await on(thursdayNoon + MINUTE)
    recordClick(context, mailOf(context, id), 0, reader)
    await on(thursdayNoon + MINUTE + 29 * SECOND)
    expect(linkView(context, { id: idOf(context, '/b0'), days: 14 }).clicks).toBe(0)
    await on(thursdayNoon + MINUTE + 30 * SECOND)
    expect(linkView(context, { id: idOf(context, '/b0'), days: 14 })).toMatchObject({ clicks: 1, people: 1, machines: 0 })
  })
})

describe('a tracked link', () => {
  it('comes into the library by itself, once per address, and another destination counts in emails already sent', async () => {
    const { context } = await furnish(openContext())
    const id = visit(context, 'p@example.com')
    await moveTo(context, thursdayNoon + 1)
    const mail = mailOf(context, id)
    expect([linkLines(context).map(({ name, url, emails }) => [name, url, emails]), destinationOf(context, mail, 0)]).toEqual([
      [['I like coptic', `${SITE}/coptic`, 1]], `${SITE}/coptic`,
    ])
    saveLink(context, idOf(context, '/coptic'), { ...bare, name: 'Coptic', url: `${SITE}/coptic-books` })
    expect(destinationOf(context, mail, 0)).toBe(`${SITE}/coptic-books`)
    expect(() => destinationOf(context, mail, 1)).toThrow(NotThere)
  })

  it('brings what it says wherever it stands, besides what this one use brings, and once for each click', async () => {
    const { context, interestId, listId } = await furnish(openContext())
    const vip = saveTag(context, null, tag('vip'))
    const news = saveList(context, null, { name: 'news', publicName: 'News', description: '' })
    saveLink(context, idOf(context, '/coptic'), {
      ...bare, name: 'Coptic', url: `${SITE}/coptic`,
      does: [{ kind: 'give-tag', tagId: vip }, { kind: 'join-list', listId: news }, { kind: 'score', points: 5 }],
    })
    const id = visit(context, 'p@example.com')
    await moveTo(context, thursdayNoon + 1)
    for (const _ of [1, 2]) recordClick(context, mailOf(context, id), 0, { ...reader, certain: true })
    expect([
      hasTag(context.db, interestId, id), hasTag(context.db, vip, id), membership(context.db, news, id), membership(context.db, listId, id),
    ]).toEqual([true, true, 'joined', 'joined'])
    expect(linkView(context, { id: idOf(context, '/coptic'), days: 14 })).toMatchObject({
      people: 1, clicks: 2, once: 0, again: 1,
      places: [{ email: 'one', thing: 'Fold, Sew, Cover', place: 1, sent: 1, people: 1, clicks: 2 }], followers: [{ id, times: 2 }],
    })
    expect(peopleWhere(
      context.db,
      toSql({ kind: 'followed', linkId: idOf(context, '/coptic'), within: null, times: 2 }, momentOf(context.db, context.clock.now())),
    )).toEqual([id])
    const saved = await saveRule(
      context, null, newRule({ kind: 'clicked', thingId: idOf(context, '/coptic') }, [{ kind: 'give-tag', tagId: vip }]),
    )
    const told = () => linkLines(context).map(({ does, doesThere, rules }) => [does, doesThere, rules])
    expect(told()).toEqual([
      [['add the tag “vip”', 'add them to the list “news”', 'add 5 points to their score'], ['add the tag “interest: coptic”'], 1],
    ])
    await switchRule(context, (saved as { id: number }).id, false)
    expect(told()[0]![2]).toBe(0)
    expect(() => saveLink(context, null, {
      ...bare, name: '', url: 'coptic', does: [{ kind: 'notice', text: 'x', email: 'no' }],
    })).toThrow(InputProblem)
  })

  it('can be taken back by its reader, as if it had not been, and only by them and for a while', async () => {
    const { context, interestId } = await furnish(openContext())
    const news = saveList(context, null, { name: 'news', publicName: 'News', description: '' })
    saveLink(context, idOf(
      context, '/coptic',
    ), { ...bare, name: 'Coptic', url: `${SITE}/coptic`, does: [{ kind: 'join-list', listId: news }, { kind: 'score', points: 50 }] })
    const [ada, bea] = [visit(context, 'ada@example.com'), visit(context, 'bea@example.com')]
    await moveTo(context, thursdayNoon + 1)
    for (const id of [ada, bea]) recordClick(context, mailOf(context, id), 0, { ...reader, certain: true })
    const [mine] = choicesOf(context, mailOf(context, ada)).followed
    expect(mine).toMatchObject({ label: 'I like coptic' })
    expect(() => takeBackClick(context, mailOf(context, bea), mine!.eventId)).toThrow(NotThere)
    takeBackClick(context, mailOf(context, ada), mine!.eventId)
    expect([hasTag(context.db, interestId, ada), membership(context.db, news, ada), hasTag(context.db, interestId, bea)]).toEqual([
      false, 'left', true,
    ])
    expect(choicesOf(context, mailOf(context, ada)).followed).toEqual([])
    await moveTo(context, thursdayNoon + 31 * DAY)
    expect(choicesOf(context, mailOf(context, bea)).followed).toEqual([])
  })

  it('that wants a second press brings nothing before it, whatever follows it, and once after', async () => {
    const { context } = await furnish(openContext())
    const sure = saveTag(context, null, tag('sure'))
    saveLink(context, idOf(
      context, '/coptic',
    ), { ...bare, name: 'Coptic', url: `${SITE}/coptic`, does: [{ kind: 'give-tag', tagId: sure }], asks: true })
    const id = visit(context, 'p@example.com')
    await moveTo(context, thursdayNoon + 1)
    const mail = mailOf(context, id)
    expect(asksFirst(context, mail, 0)).toBe(true)
    recordClick(context, mail, 0, { ...reader, certain: true })
    expect(hasTag(context.db, sure, id)).toBe(false)
    const first = confirmClick(context, mail, 0)
    expect([
      hasTag(context.db, sure, id), confirmClick(context, mail, 0) === first,
      eventsOfPerson(context.db, id).filter(({ kind, tagName }) => kind === 'got-tag' && tagName === 'sure').length,
    ]).toEqual([true, true, 1])
  })

  it('that leads nowhere stands on Today from when it was found, and no more once it answers; taken out it still leads', async () => {
    const { context } = await furnish(openContext())
    const link = idOf(context, '/coptic')
    const id = visit(context, 'p@example.com')
    await moveTo(context, thursdayNoon + 1)
    const mail = mailOf(context, id)
    saveLink(context, link, { ...bare, name: 'Coptic', url: `${SITE}/gone` })
    const troubled = () => todayView(context).needsAttention.filter(({ to }) => to.startsWith(`/links/${link}?`)).map(({ text }) => text)
    await moveTo(context, thursdayNoon + HOUR)
    expect(troubled()).toEqual([expect.stringContaining('Since Thu 26 Nov, 12:00: it says the page does not exist (404)')])
    await moveTo(context, thursdayNoon + 3 * DAY)
    expect(findLink(context.db, link)).toMatchObject({ troubleSinceAt: thursdayNoon + 1 })
    saveLink(context, link, { ...bare, name: 'Coptic', url: `${SITE}/coptic` })
    expect(troubled()).toEqual([])
    await moveTo(context, thursdayNoon + 4 * DAY)
    expect(findLink(context.db, link)!.checkedAt).toBeGreaterThan(thursdayNoon + 3 * DAY)
    removeLink(context, link)
    expect([linkLines(context), destinationOf(context, mail, 0)]).toEqual([[], `${SITE}/coptic`])
  })

  it('says what they did next, within so many days', async () => {
    const shop = await openShop(await furnish(openContext()))
    const { context } = shop
    const ids = ['bea@example.com', 'cleo@example.com', 'dora@example.com'].map(address => visit(context, address))
    await moveTo(context, thursdayNoon + HOUR)
    for (const id of ids) recordClick(context, mailOf(context, id), 0, { ...reader, certain: true })
    await moveTo(context, thursdayNoon + 3 * DAY)
    await buy(context, 'bea@example.com')
    const next = (days: number) => linkView(context, { id: idOf(context, '/coptic'), days }).next
    expect([next(2), next(7)]).toEqual([{ days: 2, bought: 0, left: 0 }, { days: 7, bought: 1, left: 0 }])
    expect(linkView(context, { id: idOf(context, '/coptic'), days: 7 }).hours[13]).toBe(3)
  })
})

describe('a page of ours that has another address', () => {
  it('is reached by the emails that are out there', async () => {
    const context = openContext({ carrier: listeningCarrier() })
    const { pageId } = await furnish(context, () => [step('one', { kind: 'at-once' }, email('one', { body: { type: 'doc', content: [
      { type: 'button', attrs: { label: 'The kit', url: `${context.baseUrl}/p/sheet-kit`, tagId: null } },
    ] } }))])
    const mail = () => mailOf(context, ada)
    const ada = visit(context, 'ada@example.com')
    await moveTo(context, thursdayNoon + HOUR)
    expect(destinationOf(context, mail(), 0)).toBe(`${context.baseUrl}/p/sheet-kit`)
    const { name, draft } = findPage(context.db, pageId)!
    savePage(context, pageId, { name, slug: 'twelve-sheets', draft })
    expect(destinationOf(context, mail(), 0)).toBe(`${context.baseUrl}/p/twelve-sheets`)
  })
})
