/** B2: who waits for an offer hears of it when it can be bought, once, in the order of waiting, and only if they want to. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { newOffer, type OfferContent } from '#core/offers/offer'
import { openingPlan } from '#core/offers/opening'
import { newWaiting, type Waiting } from '#core/offers/waiting'
import { prepare } from '#data/connection'
import { eventsOfPerson } from '#data/events'
import { linksOfMessage } from '#data/messages'
import { membership, hasTag } from '#data/marks'
import { emailsOfPerson } from '#data/outbox'
import { findPersonByKey } from '#data/people'
import { placesTaken } from '#data/purchases'
import { countWaiting, openWait, waitsOfPerson } from '#data/waits'
import { leave } from '#usecases/arrive/leave'
import { deleteList } from '#usecases/know/endMarks'
import { saveLink } from '#usecases/know/links'
import { saveList } from '#usecases/know/listsAndTags'
import { mergePeople } from '#usecases/know/sameness'
import { confirmWaiting, waitForOffer, waitView } from '#usecases/offers/wait'
import { giveBack } from '#usecases/offers/end'
import { sayNoMore } from '#usecases/offers/noMore'
import { publishOffer, removeOffer, saveOffer, takeOfferDown } from '#usecases/offers/save'
import { doFollowed, undoFollowed } from '#usecases/inner/actions/followed'
import { linkActsOf } from '#data/links'
import { appendEvent } from '#data/events'
import { paymentsOfPurchase } from '#data/purchases'
import { transact } from '#usecases/inner/reactor/transaction'
import { soldBy } from '#usecases/inner/sold'
import { destinationOf } from '#usecases/reading/click'
import { offerView } from '#usecases/views/offers'
import { todayView } from '#usecases/views/today'
import { subscriberView } from '#usecases/views/subscriber'
import { railView } from '#usecases/views/frame'
import { calendarView } from '#usecases/views/calendar'
import { subscribersView } from '#usecases/views/subscribers'
import { NOT_NARROWED } from '#usecases/inner/narrowing'
import { NotNow } from '#usecases/problem'
import { buy, openShop, press } from './shop'
import { nameOfSend } from '#usecases/inner/sendNames'
import { DAY, furnish, HOUR, listeningCarrier, moveTo, openContext, thursdayNoon, visit, type Workshop } from './workshop'

const monday = thursdayNoon + 4 * DAY

async function withWaiting(content: Partial<OfferContent> = {}, waiting: Partial<Waiting> = {}) {
  const carrier = listeningCarrier()
  const setting = await furnish(openContext({ carrier }))
  const shop = await openShop(setting, {
    opensAt: monday, ...content, waiting: { ...newWaiting(), listIds: [setting.listId], asks: false, ...waiting },
  })
  const { context, offerId } = shop
  const wait = (email: string) => {
    waitForOffer(context, { slug: 'long-stitch', email, firstName: '', code: '', zone: '', ip: '192.0.2.7' })
    return findPersonByKey(context.db, email)!.id
  }
  /** To whom the opening went, in the order in which it left. */
  const told = () => carrier.mails.filter(({ subject }) => subject === 'It can be bought now').map(({ to }) => to.address)
  const change = async (more: Partial<OfferContent>) => {
    const { name, slug, draft } = offerView(context, offerId)
    saveOffer(context, offerId, { name, slug, draft: { ...draft, ...more } })
    await publishOffer(context, offerId)
  }
  return { ...shop, carrier, wait, told, change }
}

const letters = (...which: string[]) => which.map(letter => `${letter}@example.com`)
const asks = (context: Workshop, personId: number) =>
  emailsOfPerson(context.db, personId).filter(({ kind, itemId: stepId }) => kind === 'waiting' && stepId === 'asking')

describe('B2: who waits for an offer', () => {
  it('hears of it at the opening, once, as asked-for mail with their own words, and waits no longer', async () => {
    const { context, wait, told, carrier, offerId } = await withWaiting()
    const ana = wait('a@example.com')
    wait('b@example.com')
    wait('b@example.com')
    expect(countWaiting(context.db, offerId)).toBe(2)
    await moveTo(context, monday - 1)
    expect(told()).toEqual([])
    await moveTo(context, monday)
    expect(told()).toEqual(letters('a', 'b'))
    expect(countWaiting(context.db, offerId)).toBe(0)
    const [mail] = emailsOfPerson(context.db, ana)
    expect([mail!.kind, mail!.askedFor, mail!.status, nameOfSend(context.db, mail!).of]).toEqual([
      'opening', 1, 'handed over', 'Long-Stitch Journals',
    ])
    // Its button is a link that counts, and leads to the offer.
    expect(linksOfMessage(context.db, mail!.messageId).map(({ url }) => url)).toEqual([`${context.baseUrl}/s/long-stitch`])
    expect(carrier.mails.at(-1)!.text).toContain('You get this because you asked for it')
    await moveTo(context, monday + 30 * DAY)
    expect(told()).toHaveLength(2)
  })

  it('hears of it in bits where places are few: the longest first, the next when a turn is over or a place comes free', async () => {
    const { context, wait, told, offerId } = await withWaiting({ places: 2 }, { turnHours: 24 })
    for (const letter of letters('a', 'b', 'c', 'd', 'e')) {
      wait(letter)
      await moveTo(context, context.clock.now() + 1000)
    }
    const plan = offerView(context, offerId).waiting!
    expect([plan.people, plan.ahead]).toEqual([
      5, { bits: [0, 1, 2].map(n => ({ at: monday + n * DAY, people: n < 2 ? 2 : 1 })), unheard: 0 },
    ])
    await moveTo(context, monday)
    expect(told()).toEqual(letters('a', 'b'))
    // One buys: their place is gone, and nobody else’s turn comes of it.
    const bought = await buy(context, 'a@example.com')
    await moveTo(context, monday + DAY - 1)
    expect(told()).toEqual(letters('a', 'b'))
    await moveTo(context, monday + DAY)
    expect(told()).toEqual(letters('a', 'b', 'c'))
    // Money back makes a place free at once.
    const [payment] = paymentsOfPurchase(context.db, bought.id)
    await giveBack(context, { purchaseId: bought.id, paymentId: payment!.id, amount: 4900 })
    await moveTo(context, monday + DAY + HOUR)
    expect(told()).toEqual(letters('a', 'b', 'c', 'd'))
    await buy(context, 'c@example.com')
    await buy(context, 'd@example.com')
    await moveTo(context, monday + 60 * DAY)
    expect(told()).toEqual(letters('a', 'b', 'c', 'd'))
    expect(countWaiting(context.db, offerId)).toBe(1)
    expect(placesTaken(context.db, offerId, context.clock.now()).sold).toBe(2)
  })

  it('hears of it when room is made, not while it is taken down, and again after it has opened once more', async () => {
    const { context, wait, told, change, offerId } = await withWaiting({ places: 1, opensAt: null })
    await buy(context, 'first@example.com')
    wait('a@example.com')
    takeOfferDown(context, offerId)
    await moveTo(context, context.clock.now() + DAY)
    expect(told()).toEqual([])
    await change({ places: 2 })
    await moveTo(context, context.clock.now() + 1)
    expect(told()).toEqual(letters('a'))
    const closesAt = context.clock.now() + DAY
    await change({ places: null, closesAt, opensAgainAt: closesAt + 5 * DAY })
    await moveTo(context, closesAt + HOUR)
    wait('a@example.com')
    wait('z@example.com')
    await moveTo(context, closesAt + 5 * DAY - 1)
    expect(told()).toHaveLength(1)
    await moveTo(context, closesAt + 5 * DAY)
    expect(told()).toEqual(letters('a', 'a', 'z'))
  })

  it('is told nothing if they left, said no more, were erased from the list or bought it meanwhile; a place goes to the next', async () => {
    const { context, wait, told, offerId, listId } = await withWaiting({ places: 1 })
    const [gone, silent, off] = [wait('gone@example.com'), wait('silent@example.com'), wait('off@example.com')]
    wait('a@example.com')
    visit(context, 'gone@example.com')
    visit(context, 'off@example.com')
    await moveTo(context, thursdayNoon + HOUR)
    const [ofGone, ofOff] = [gone, off].map(id => emailsOfPerson(context.db, id)[0]!.id)
    leave(context, ofGone!, { what: 'everything' })
    leave(context, ofOff!, { what: 'list', listId })
    sayNoMore(context, silent, offerId)
    expect(countWaiting(context.db, offerId)).toBe(2)
    await moveTo(context, monday)
    // Who left the list is held back with that reason, and takes nobody’s turn.
    expect(told()).toEqual(letters('a'))
    expect(emailsOfPerson(context.db, off).filter(({ kind }) => kind === 'opening').map(({ status, reason }) => [status, reason])).toEqual([
      ['held back', 'left-list'],
    ])
  })

  it('hears of it by the workspace’s first list where the list they joined was deleted', async () => {
    const carrier = listeningCarrier()
    const setting = await furnish(openContext({ carrier }))
    const { context } = setting
    const own = saveList(context, null, { name: 'waits', publicName: '', description: '' })
    const { offerId } = await openShop(setting, { opensAt: monday, waiting: { ...newWaiting(), listIds: [own], asks: false } })
    waitForOffer(context, { slug: 'long-stitch', email: 'a@example.com', firstName: '', code: '', zone: '', ip: null })
    deleteList(context, own, 1)
    await moveTo(context, monday)
    expect([countWaiting(context.db, offerId), carrier.mails.filter(({ subject }) => subject === 'It can be bought now').length]).toEqual([
      0, 1,
    ])
  })

  it('comes to the offer by that email also after its address has changed, before or since', async () => {
    const { context, wait, offerId } = await withWaiting()
    const ana = wait('a@example.com')
    const leadsTo = () => destinationOf(context, emailsOfPerson(context.db, ana)[0]!.id, 0)
    const rename = (slug: string) => {
      const { name, draft } = offerView(context, offerId)
      saveOffer(context, offerId, { name, slug, draft })
    }
    rename('leather')
    await moveTo(context, monday)
    expect(leadsTo()).toBe(`${context.baseUrl}/s/leather`)
    rename('leather-by-night')
    expect(leadsTo()).toBe(`${context.baseUrl}/s/leather-by-night`)
    expect(soldBy(context, emailsOfPerson(context.db, ana)[0]!.messageId).map(({ id }) => id)).toEqual([offerId])
  })

  it('is not told what has closed again before the email could leave', async () => {
    const { context, wait, told } = await withWaiting({ closesAt: monday + HOUR })
    const ana = wait('a@example.com')
    prepare(context.db, `UPDATE workspace SET carrier_state = 'stopped'`).run()
    await moveTo(context, monday + 2 * HOUR)
    prepare(context.db, `UPDATE workspace SET carrier_state = 'ready'`).run()
    await moveTo(context, monday + 3 * HOUR)
    expect(told()).toEqual([])
    expect(emailsOfPerson(context.db, ana)[0]!.reason).toBe('too-late')
  })

  it('confirms first where the list asks: nothing is given before, the answer is the same for all, and it counts once', async () => {
    const { context, wait, told, offerId, tagId, listId } = await withWaiting({}, { asks: true, tagIds: [1] })
    const known = visit(context, 'known@example.com')
    const [ana, late] = [wait('a@example.com'), wait('late@example.com')]
    wait('known@example.com')
    wait('a@example.com')
    expect([countWaiting(context.db, offerId), membership(context.db, listId, ana), hasTag(context.db, tagId, ana)]).toEqual([
      0, 'never-joined', false,
    ])
    expect([ana, known].map(id => asks(context, id).length)).toEqual([1, 1])
    const id = openWait(context.db, offerId, ana)!.id
    expect(confirmWaiting(context, id)).toBe('counts')
    expect(confirmWaiting(context, id)).toBe('waits-already')
    expect([membership(context.db, listId, ana), hasTag(context.db, tagId, ana), waitsOfPerson(context.db, ana)[0]!.place]).toEqual([
      'joined', true, 1,
    ])
    await moveTo(context, thursdayNoon + 7 * DAY + 1)
    expect(waitView(context, openWait(context.db, offerId, late)!.id).outcome).toBe('too-late')
    expect(told()).toEqual(letters('a'))
    expect(waitView(context, id).outcome).toBe('told-already')
    expect(waitView(context, 999).outcome).toBe('over')
  })

  it('gets at most five emails that ask in a day, however often a stranger presses', async () => {
    const { context, wait } = await withWaiting({}, { asks: true })
    const ana = wait('a@example.com')
    for (let n = 0; n < 20; n++) {
      await moveTo(context, context.clock.now() + 11 * 60_000)
      wait('a@example.com')
    }
    expect(asks(context, ana)).toHaveLength(5)
  })

  it('joins by a link in an email, too, and takes it back with what it brought', async () => {
    const { context, offerId, tagId, listId, told } = await withWaiting({}, { tagIds: [2] })
    const ana = visit(context, 'a@example.com')
    const does = [{ kind: 'wait' as const, offerId }]
    const linkId = saveLink(context, null, { name: 'notify me', url: 'https://example.com/', note: '', does, asks: false })
    const follow = (personId: number) => transact(context, () => {
      const eventId = appendEvent(context.db, 'clicked', context.clock.now(), { personId })
      doFollowed(context.db, { personId, linkId, label: 'notify me', does }, { at: context.clock.now(), eventId })
      return eventId
    })
    const eventId = follow(ana)
    expect([countWaiting(context.db, offerId), hasTag(context.db, 2, ana)]).toEqual([1, true])
    expect(linkActsOf(context.db, follow(ana))!.acts[0]!.outcome).toBe('waits-already')
    transact(context, () => undoFollowed(context.db, linkActsOf(context.db, eventId)!, context.clock.now()))
    // The tag and the list that they had before stay.
    expect([
      countWaiting(context.db, offerId), hasTag(context.db, 2, ana), hasTag(context.db, tagId, ana), membership(context.db, listId, ana),
    ])
      .toEqual([0, false, true, 'joined'])
    follow(ana)
    await moveTo(context, monday)
    expect(told()).toEqual(letters('a'))
    // It can be bought already: the email goes at once.
    const bea = visit(context, 'b@example.com')
    follow(bea)
    await moveTo(context, monday + 1)
    expect(told()).toEqual(letters('a', 'b'))
  })

  it('keeps the earlier place when two records are made one', async () => {
    const { context, wait, offerId } = await withWaiting()
    const first = wait('a@example.com')
    await moveTo(context, thursdayNoon + HOUR)
    wait('b@example.com')
    await moveTo(context, thursdayNoon + 2 * HOUR)
    const second = wait('c@example.com')
    mergePeople(context, second, first, 'a@example.com')
    expect([countWaiting(context.db, offerId), waitsOfPerson(context.db, second)[0]!.place]).toEqual([2, 1])
  })

  it('is seen: on Today, on the rail, in the calendar and behind the number', async () => {
    const { context, wait, offerId } = await withWaiting({ places: 2 })
    for (const letter of letters('a', 'b', 'c')) wait(letter)
    expect(todayView(context).needsAttention.map(({ title }) => title)).toContain('3 people wait for Long-Stitch Journals')
    expect(railView(context).posts!.filter(({ kind }) => kind === 'opening').map(({ at, people }) => [at, people])).toEqual([
      [monday, 2], [monday + DAY, 1],
    ])
    const day = calendarView(context).days.find(({ people }) => people > 0 && people < 3)!
    expect(day.slots.flatMap(({ sends }) => sends).map(({ of, people }) => [of, people])).toEqual([['Long-Stitch Journals', 2]])
    const { rows } = subscribersView(context, { ...NOT_NARROWED, search: '', page: 0, sort: 'address', where: { kind: 'waits', offerId } })
    expect(rows.map(({ address }) => address).sort()).toEqual(letters('a', 'b', 'c'))
    expect(() => wait('no address')).toThrow()
    await moveTo(context, monday)
    expect(() => wait('d@example.com')).toThrow(NotNow)
    expect(eventsOfPerson(context.db, findPersonByKey(context.db, 'a@example.com')!.id)[0]!.kind).toBe('sent')
  })

  it('and what they said no more of stand on their page, and nothing of either once the offer is deleted', async () => {
    const { context, wait, offerId } = await withWaiting()
    const [ana, bea] = [wait('a@example.com'), wait('b@example.com')]
    sayNoMore(context, bea, offerId)
    expect(subscriberView(context, ana).waits).toEqual([{ offerId, name: 'Long-Stitch Journals', since: thursdayNoon, place: 1 }])
    removeOffer(context, offerId)
    expect([ana, bea].map(id => [subscriberView(context, id).waits, subscriberView(context, id).noMore])).toEqual([[[], []], [[], []]])
    await moveTo(context, monday + DAY)
    expect(todayView(context).needsAttention.map(({ title }) => title).join()).not.toContain('wait')
  })

  it('was never promised an email by an offer of before: its words have to be published first', async () => {
    const { context, wait, told, change, offerId } = await withWaiting()
    wait('a@example.com')
    context.db.prepare('UPDATE offer_versions SET opening_message_id = NULL').run()
    await moveTo(context, monday + DAY)
    expect([told(), countWaiting(context.db, offerId)]).toEqual([[], 1])
    expect(todayView(context).needsAttention.find(({ title }) => title.includes('waits for'))!.text).toContain('Publish it again')
    await change({})
    await moveTo(context, monday + 2 * DAY)
    expect(told()).toEqual(letters('a'))
  })
})

describe('the look ahead at an opening', () => {
  it('tells nobody twice and nobody more than wait, keeps to the places, and ends with the closing', () => {
    fc.assert(fc.property(
      fc.record({
        waiting: fc.nat(500), places: fc.option(fc.integer({ min: 1, max: 40 })), sold: fc.nat(45),
        turnHours: fc.integer({ min: 1, max: 72 }), days: fc.nat(6), closes: fc.option(fc.nat(12)),
      }),
      ({ waiting, places, sold, turnHours, days, closes }) => {
        const content = {
          ...newOffer(), opensAt: thursdayNoon + days * DAY, closesAt: closes === null ? null : thursdayNoon + (days + closes + 1) * DAY,
          places, waiting: { turnHours },
        }
        const { bits, unheard } = openingPlan(content, { now: thursdayNoon, taken: { sold, held: 0, freeAt: null }, waiting, turnEnds: [] })
        expect(bits.reduce((sum, { people }) => sum + people, 0) + unheard).toBe(waiting)
        for (const [n, { at, people }] of bits.entries()) {
          expect([at >= content.opensAt, content.closesAt === null || at < content.closesAt, n === 0 || at > bits[n - 1]!.at]).toEqual([
            true, true, true,
          ])
          if (places !== null) expect(people).toBeLessThanOrEqual(places - sold)
        }
        if (places === null) expect(bits.length).toBe(waiting > 0 ? 1 : 0)
      },
    ))
  })

  it('is what the engine then does, whoever else buys not', async () => {
    const { context, wait, told, offerId } = await withWaiting({ places: 3, closesAt: monday + 5 * HOUR }, { turnHours: 2 })
    for (let n = 0; n < 11; n++) wait(`p${n}@example.com`)
    const { ahead } = offerView(context, offerId).waiting!
    const seen: { at: number, people: number }[] = []
    for (let at = monday; at < monday + 8 * HOUR; at += HOUR) {
      const before = told().length
      await moveTo(context, at)
      if (told().length > before) seen.push({ at, people: told().length - before })
    }
    expect([seen, 11 - told().length]).toEqual([ahead.bits, ahead.unheard])
    // Going to pay holds a place for ten minutes and no longer.
    await expect(press(context, 'z@example.com')).rejects.toThrow(NotNow)
  })
})
